"""A reading typed from the firmware's own screen: five figures, each of which may be left out."""

from pydantic import Field

from ..errors import InputError
from ..frozen import Frozen
from ..reading import ReadDrive, Reading, ReadModule

#: What the typed reading is understood from; it lists the drives the firmware shows.
SCREEN = "firmware-screen"


class TypedScreen(Frozen):
    """``sockets`` are GB by slot, 0 for one that shows empty; ``drives`` the names it lists, None where nobody looked."""

    total_gb: float | None = Field(None, ge=0, le=4096)
    sockets: dict[str, float] = {}
    channels: int | None = Field(None, ge=1, le=4)
    speed_mts: int | None = Field(None, ge=100, le=20_000)
    drives: tuple[str, ...] | None = Field(None, max_length=12)


def typed_reading(screen: TypedScreen, maker: str = "", system: str = "") -> Reading:
    """The screen as a reading. Raises :class:`InputError` where nothing was typed."""
    if screen.total_gb is None and not screen.sockets and screen.speed_mts is None and screen.drives is None:
        raise InputError("nothing was typed", "firmware screen", "Type at least one figure it shows.")
    modules = [
        ReadModule(locator=slot, present=gb > 0, size_mb=round(gb * 1024) if gb > 0 else None, soldered=False, running_mts=screen.speed_mts)
        for slot, gb in screen.sockets.items()
    ]  # fmt: skip
    if not modules and screen.speed_mts is not None:
        modules = [ReadModule(locator="memory", present=True, running_mts=screen.speed_mts)]
    return Reading(
        maker=maker,
        system=system,
        total_mb=None if screen.total_gb is None else round(screen.total_gb * 1024),
        modules=tuple(modules),
        drives=tuple(ReadDrive(name=name, model=name) for name in screen.drives or ()),
        understood=(SCREEN,) if screen.drives is not None else ("typed",),
    )
