"""Every kind there is, looked up by a part's ``kind``. A kind of part without its module fails here, at import."""

from typing import Any, get_args

from ..machine.part import AnyPart
from .accessory import Accessories
from .base import Kind
from .battery import Batteries
from .bay_drive import BayDrives
from .card_drive import CardDrive
from .cellular import CellularCards
from .memory import Memory
from .radio import Radios

KINDS: dict[str, Kind[Any]] = {
    k.id: k for k in (Memory(), CardDrive(), BayDrives(), Radios(), CellularCards(), Batteries(), Accessories())
}
_PARTS = {str(p.model_fields["kind"].default) for p in get_args(AnyPart)}
if KINDS.keys() != _PARTS:
    raise TypeError(f"kinds and parts differ: {sorted(KINDS.keys() ^ _PARTS)}")


def kind_of(part: Any) -> Kind[Any]:
    """The kind of a part."""
    return KINDS[part.kind]


def kind_for(slot_kind: str) -> Kind[Any]:
    """The kind of part that belongs in a kind of slot."""
    return next(k for k in KINDS.values() if slot_kind in k.slots)
