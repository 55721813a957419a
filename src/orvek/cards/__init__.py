"""What leaves the program: cards as PDF, the plan as text and JSON, tables and calendars."""
