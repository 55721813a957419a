"""The station Timetable."""
