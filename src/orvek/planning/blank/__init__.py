"""What follows from the steps: lines, widths, what they do to the bar."""
