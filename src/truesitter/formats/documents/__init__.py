"""JSON, CSV, iCalendar and folders."""
