"""What is sawn and glued: the cut list, boards, and whether lines meet."""
