"""Machines on the demo's benches that its library lacks: what the simulated laptop of such a job is made of.

A stand-in for the customer's machine, as the simulated laptop is; nothing of it reaches the library by itself.
"""

import json
from pathlib import Path

from django.conf import settings

from ..core.fit.build import Build
from ..core.machine.shape import Machine
from ..core.survey.current_build import build_today

DATA = Path(__file__).parent / "data" / "beside"


def build_beside(number: int) -> Build | None:
    """The machine that lies beside a job; None where the library has it."""
    path = DATA / f"{number}.json"
    if not settings.DEMO or not path.exists():
        return None
    told = json.loads(path.read_text())
    return build_today(Machine.model_validate(told["machine"]).configured(told["configuration"]))


def words_beside(number: int) -> str:
    """The maker's text that lies beside a job; "" where none does."""
    path = DATA / f"{number}-words.txt"
    return path.read_text() if settings.DEMO and path.exists() else ""
