"""Hypothesis explores freely at the bench; where CI judges, the same cases every time."""

import os

from hypothesis import settings

settings.register_profile("ci", derandomize=True)
if os.environ.get("CI"):
    settings.load_profile("ci")
