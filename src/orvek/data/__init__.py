"""What ships with the program: sizes, generic materials, fonts, icons, the demo workshop."""
