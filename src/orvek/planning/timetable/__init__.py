"""Timetable: the tasks of a job, when each can be done in the maker's hours, and when it is ready."""
