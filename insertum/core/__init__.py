"""The job's rules and arithmetic: no Django, no files, no clock, no network."""
