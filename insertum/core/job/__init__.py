"""One job as a shape, and what each station shows of it."""
