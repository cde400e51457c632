"""What stands in for the world outside: the simulated laptop, the machines that lie beside a job, the examples.

They are the demo's; the settings name them (``STAND_INS``), and where they name none there are none.
"""

from collections.abc import Collection
from importlib import import_module
from typing import Protocol, cast

from django.conf import settings
from django.contrib.auth.base_user import AbstractBaseUser

from ...core.fit.build import Build
from ...core.frozen import Frozen


class BroughtIn(Frozen):
    """Examples that came into the library."""

    machines: int
    parts: int


class StandIns(Protocol):
    """What a module of stand-ins has."""

    #: Faults a simulated laptop can be given, with their words.
    FAULTS: dict[str, str]

    def build_beside(self, number: int) -> Build | None:
        """The machine that lies beside a job; None where the library has it."""
        ...

    def words_beside(self, number: int) -> str:
        """The maker's text that lies beside a job; "" where none does."""
        ...

    def bundle_json(self, build: Build, faults: Collection[str], busy: bool) -> str:
        """A machine's reading bundle as a file, ``busy`` with the customer's own load."""
        ...

    def bring_in(self, who: AbstractBaseUser | None) -> BroughtIn:
        """Example machines and parts into the library, all or none."""
        ...


def stand_ins() -> StandIns | None:
    """Those of the settings; None in a workshop of one's own."""
    return cast(StandIns, import_module(settings.STAND_INS)) if settings.DEMO else None


def examples() -> StandIns:
    """Example machines and parts are there for every workshop."""
    return cast(StandIns, import_module(settings.STAND_INS))
