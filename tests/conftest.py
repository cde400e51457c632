"""What holds for every test."""

from hypothesis import HealthCheck, settings
from hypothesis import core as hypothesis_core

from insertum.site.collector import calm

from .draws import SEED

# No test may fail because the machine is busy: neither by a deadline nor by how long examples take to make. Nor by luck:
# the suite's draws are fixed, and what an earlier run found is not drawn again from a store of this machine's own.
settings.register_profile(
    "house", deadline=None, suppress_health_check=[HealthCheck.too_slow], derandomize=not SEED, database=None
)
settings.load_profile("house")
if SEED:
    hypothesis_core.global_force_seed = SEED

calm()  # as the server does: tests make small values by the million too
