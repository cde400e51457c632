"""What tests draw: the same on every machine and every day, or new with a seed that is printed.

``make test`` draws as seed 0 does, always. The targets that go further (``make planexact``, ``soundness``, ``fuzz``,
``kills``, ``technicians``, ``document``) draw anew each time; ``make planexact SEED=7`` repeats what seed 7 drew.
"""

import os
import random

#: 0 for the suite's fixed draws.
SEED = int(os.environ.get("INSERTUM_SEED", "0"))


def chance(own: int = 0) -> random.Random:
    """A source of chance: another for each number of a test's own."""
    return random.Random(own + SEED * 1_000_003)
