"""When a casting is cured: the question, the forecast, its findings."""
