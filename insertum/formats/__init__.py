"""Open formats in and out: machine, parts, plan request, job and reading bundle."""
