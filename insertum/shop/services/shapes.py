"""The few shapes that several use cases answer with."""

from ...core.frozen import Frozen
from ...core.plan.need import Need


class Choice(Frozen):
    """Something that can be chosen, by its number."""

    number: str
    name: str


class NeedView(Frozen):
    need: Need
    label: str
    unit: str
