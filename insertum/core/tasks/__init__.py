"""Work without a slot (rules.md section 11): what can be done, what it takes, and what it mends."""
