"""M.2 cards and sockets (PCI-SIG, PCI Express M.2 Specification): module code, keys, heights.

Lengths and widths in mm; component heights and clearances in whole micrometres (µm).
"""

import re

from ..errors import InputError, whole_text
from ..frozen import Frozen

WIDTHS = (12, 16, 22, 30)
LENGTHS = (16, 26, 30, 38, 42, 52, 60, 80, 110)
#: Components above and below the board, in µm (M.2 specification, component height table).
HEIGHTS_UM: dict[str, tuple[int, int]] = {
    "S1": (1200, 0),
    "S2": (1350, 0),
    "S3": (1500, 0),
    "D1": (1200, 1350),
    "D2": (1350, 1350),
    "D3": (1500, 1350),
    "D4": (1500, 700),
    "D5": (1500, 1500),
}
BOARD_UM = 800
#: Pins a key takes out of the edge.
KEY_PINS = {"A": (8, 15), "B": (12, 19), "E": (24, 31), "M": (59, 66)}
#: Room below the card that a socket of this height leaves over bare board, in µm.
SOCKET_BELOW_UM = {"H2.3": 0, "H2.5": 0, "H2.8": 700, "H3.2": 1350, "H4.2": 1500}
#: Most PCIe lanes a key can carry. What is wired is machine data.
KEY_LANES = {"A": 1, "B": 2, "E": 1, "M": 4}


class ModuleCode(Frozen):
    """A card's printed code. ``width_mm``/``length_mm`` outside the standard are kept and named in
    ``remarks``: unknown, not nonsense. Heights are None when the code does not carry them."""

    width_mm: int
    length_mm: int
    height_code: str | None = None
    above_um: int | None = None
    below_um: int | None = None
    keys: tuple[str, ...] = ()
    remarks: tuple[str, ...] = ()

    def __str__(self) -> str:
        return "-".join(x for x in (f"{self.width_mm}{self.length_mm}", self.height_code, *self.keys) if x)


_CODE = re.compile(r"^(?:(?:M\.?2|NGFF)[\s-]+)?(\d{2})(\d{2,3})(?:[\s-]+([SD]\d))?((?:[\s+-]+[A-Z])*)$")


def read_code(text: str) -> ModuleCode:
    """Read ``2280-D2-B-M``: width, length, component heights, keys.

    "NGFF" means M.2. Raises :class:`InputError` when it is no module code, when the height code
    does not exist, or when a key letter is none of the standard's.
    """
    if len(text) > 100:
        raise InputError("too long for a module code", f"code {text[:30]!r}…", "It looks like 2280-D2-B-M.")
    line = " ".join(whole_text(text, "code").upper().split())
    found = _CODE.match(line)
    if not found:
        raise InputError("not an M.2 module code", f"code {text!r}", "It looks like 2280-D2-B-M: size, heights, keys.")
    height = found[3]
    if height and height not in HEIGHTS_UM:
        raise InputError(f"no component height {height}", f"code {text!r}", f"It is one of {', '.join(HEIGHTS_UM)}.")
    keys = tuple(re.findall(r"[A-Z]", found[4]))
    if odd := [k for k in keys if k not in "ABCDEFGHJKLM"]:
        raise InputError(f"no key {odd[0]}", f"code {text!r}", "Keys in use are A, B, E and M.")
    width, length = int(found[1]), int(found[2])
    remarks = [f"width {width} mm is not one of the standard's" for _ in [0] if width not in WIDTHS]
    remarks += [f"length {length} mm is not one of the standard's" for _ in [0] if length not in LENGTHS]
    remarks += [f"key {k} is reserved" for k in keys if k not in KEY_PINS]
    above, below = HEIGHTS_UM.get(height or "", (None, None))
    return ModuleCode(
        width_mm=width,
        length_mm=length,
        height_code=height,
        above_um=above,
        below_um=below,
        keys=keys,
        remarks=tuple(remarks),
    )
