"""What holds for every test."""

from hypothesis import HealthCheck, settings

# No test may fail because the machine is busy: neither by a deadline nor by how long examples take to make.
settings.register_profile("house", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("house")
