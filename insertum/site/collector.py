"""The garbage collector, set for what this application does: it makes many small values that hold no cycles."""

import gc

#: Containers made before the young ones are looked through. Python's own 700 looks at a plan's values a thousand times over:
#: a fifth of its time. What is in cycles, an exception's frames above all, waits for a few megabytes at most.
YOUNG = 50_000


def calm() -> None:
    """Look for cycles now and then rather than all the time."""
    gc.set_threshold(YOUNG, 20, 50)
