"""The version of the rules."""

#: Stored with every chosen plan: a later change of a rule never rewrites an old job.
RULES_VERSION = "2026.12.1"
