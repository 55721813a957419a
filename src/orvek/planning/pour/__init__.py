"""What is mixed and poured: amounts, cups, time, cost."""
