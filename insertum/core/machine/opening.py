"""What is in the way of a slot, what one slot takes from another, and what the cover shows."""

from typing import Annotated, Literal

from pydantic import Field

from ..frozen import Frozen
from .attribute import Attribute, declared
from .claim import Fact
from .slot_base import Place


class Exclusion(Frozen):
    """What a part in ``when`` that ``holds`` so does to the slot ``on``: nothing, it is off, its room is
    filled, or its lanes fall to ×1 or ×2."""

    when: str
    holds: Literal["anything", "sata", "pcie", "fills_bay"]
    on: str
    effect: Annotated[
        Fact[Literal["none", "off", "filled", "x1", "x2"]],
        Attribute(
            label="Effect",
            kind="choice",
            values=("none", "x2", "x1", "filled", "off"),
            tool="manual",
            how="The manual's note on shared lanes and room, or try both.",
        ),
    ] = Fact[Literal["none", "off", "filled", "x1", "x2"]]()


declared(Exclusion)


class Obstacle(Frozen):
    """Something to take off, open or unplug on the way in. ``seconds`` is off and on again.
    ``after`` names what must be off before; a cycle is an error in the data."""

    id: str
    what: Literal[
        "feet", "strip", "cap", "sticker", "flap", "screws", "grille", "cover", "cable", "battery", "shield", "tape",
        "latch", "part",
    ]  # fmt: skip
    name: str
    after: tuple[str, ...] = ()
    after_sources: dict[str, str] = Field({}, description="who says so, for an edge that is not documented")
    slot: str | None = Field(None, description="the slot whose part this is, where it is one")
    tool: str = ""
    screws: int = Field(0, ge=0, le=100)
    length_mm: float | None = Field(None, gt=0, le=100)
    captive: bool = False
    seconds: int = Field(60, ge=0, le=36_000)
    place: str = ""
    hint: str = ""
    caution: str = ""
    hint_on: str = Field("", description="what helps when it goes back")
    caution_on: str = Field("", description="what to heed when it goes back")
    source: str = "documented"


class Mark(Frozen):
    """A text that identifies: where it is found and what it says."""

    kind: Literal["family", "model", "type_code", "product", "board", "processor", "system", "battery"]
    text: str


class Feature(Frozen):
    """Something drawn on the map that is no slot: fan, speakers, soldered memory."""

    name: str
    place: Place
    note: str = ""


AssemblyKind = Literal[
    "fan", "heat_sink", "clock_cell", "hinges", "speakers", "port_board", "keyboard", "lid_cable", "panel", "case"
]


class Assembly(Frozen):
    """Something that is changed as one piece and belongs to no slot. ``number`` is the one printed on it, '' where
    nobody has read it; ``order`` the printed order its screws are tightened in; ``interface`` what lies between a sink
    and its dies as delivered."""

    id: str = Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$")
    what: AssemblyKind
    name: str = Field(min_length=1, max_length=80)
    number: str = Field("", max_length=80)
    comes_with: str = Field("", max_length=120, description="what comes only as one piece with it")
    reached_by: tuple[str, ...] = ()
    order: tuple[str, ...] = Field((), max_length=24)
    interface: Literal["", "paste", "sheet", "liquid_metal"] = ""
    source: str = "documented"
