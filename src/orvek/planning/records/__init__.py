"""What happened, what it cost, what to change."""
