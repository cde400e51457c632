"""Radio rates (IEEE 802.11n, ac, ax, be): data tones, symbol times and top modulation.

PHY rate in Mb/s = streams × data tones × bits × code rate ÷ symbol time in µs, short guard.
"""

from fractions import Fraction
from typing import Protocol

from ..frozen import Frozen

STANDARDS = ("n", "ac", "ax", "be")
#: Data tones by standard and channel width in MHz.
TONES: dict[str, dict[int, int]] = {
    "n": {20: 52, 40: 108},
    "ac": {20: 52, 40: 108, 80: 234, 160: 468},
    "ax": {20: 234, 40: 468, 80: 980, 160: 1960},
    "be": {20: 234, 40: 468, 80: 980, 160: 1960, 320: 3920},
}
BANDS = ("2.4", "5", "6")
WIDTHS = (20, 40, 80, 160, 320)
_SYMBOL_US = {"n": Fraction(36, 10), "ac": Fraction(36, 10), "ax": Fraction(136, 10), "be": Fraction(136, 10)}
_BITS = {"n": 6, "ac": 8, "ax": 10, "be": 12}
#: Share of the PHY rate a user sees; the middle is what is credited, the ends are shown.
DELIVERED = (Fraction(60, 100), Fraction(65, 100), Fraction(70, 100))


class Mode(Frozen):
    """One way of talking: standard, streams, width in MHz, band in GHz ("2.4", "5", "6")."""

    standard: str
    streams: int
    width_mhz: int
    band: str

    def __str__(self) -> str:
        return f"802.11{self.standard} {self.streams}×{self.streams}, {self.width_mhz} MHz at {self.band} GHz"


class RadioSide(Frozen):
    """What a card or a router can do. ``bands`` in GHz as text."""

    standard: str
    streams: int
    width_mhz: int
    bands: tuple[str, ...]


def code_rate(standard: str, streams: int, width_mhz: int) -> Fraction:
    """5/6 at the top modulation; 256-QAM 5/6 is not defined for ac at 20 MHz with 1, 2 or 4 streams."""
    return Fraction(3, 4) if standard == "ac" and width_mhz == 20 and streams != 3 else Fraction(5, 6)


def phy_mbit_s(standard: str, streams: int, width_mhz: int) -> float:
    """Top PHY rate in Mb/s; raises KeyError when the standard has no such width."""
    tones, bits = TONES[standard][width_mhz], _BITS[standard]
    return float(streams * tones * bits * code_rate(standard, streams, width_mhz) / _SYMBOL_US[standard])


def sum_of(standard: str, streams: int, width_mhz: int) -> str:
    """The same sum in words: '2 × 980 × 10 × 5/6 ÷ 13.6 = 1201.0 Mb/s'."""
    rate, symbol = code_rate(standard, streams, width_mhz), float(_SYMBOL_US[standard])
    total = phy_mbit_s(standard, streams, width_mhz)
    return f"{streams} × {TONES[standard][width_mhz]} × {_BITS[standard]} × {rate} ÷ {symbol:g} = {total:.1f} Mb/s"


def best_mode(card: RadioSide, router: RadioSide, antennas: int, antenna_bands: tuple[str, ...]) -> Mode | None:
    """The fastest mode card, antennas and router share; None when they share no band."""
    streams = min(card.streams, router.streams, antennas)
    top = min(STANDARDS.index(card.standard), STANDARDS.index(router.standard))
    width = min(card.width_mhz, router.width_mhz)
    modes = [
        Mode(standard=s, streams=streams, width_mhz=w, band=band)
        for s in STANDARDS[: top + 1]
        for w in TONES[s]
        for band in card.bands
        if band in router.bands and band in antenna_bands and w <= width and exists(s, w, band)
    ]
    if streams < 1:
        return None
    return max(modes, key=lambda m: (phy_mbit_s(m.standard, m.streams, m.width_mhz), m.band), default=None)


def exists(standard: str, width: int, band: str) -> bool:
    """Is there such a channel? ac does not exist at 2.4 GHz, n has none above 40 MHz (IEEE 802.11n), 320 MHz is be's at
    6 GHz alone."""
    if standard == "n":
        return width <= 40 and band != "6"
    if band == "2.4":
        return standard != "ac" and width <= 40
    if band == "6":
        return standard == "be" or (standard == "ax" and width <= 160)
    return width <= 160


class Told(Protocol):
    """What is told of a card; None and no bands where it is not."""

    @property
    def standard(self) -> str | None: ...
    @property
    def streams(self) -> int | None: ...
    @property
    def bands(self) -> tuple[str, ...] | None: ...


def no_less(card: Told, than: Told) -> bool:
    """Does a card surely use no fewer chains, in no older standard, on all the bands the other one has?"""
    if card.standard is None or than.standard is None or card.streams is None or than.streams is None:
        return False
    newer = STANDARDS.index(card.standard) >= STANDARDS.index(than.standard)
    return (
        newer and card.streams >= than.streams and bool(than.bands) and set(than.bands or ()) <= set(card.bands or ())
    )


def delivered_mbit_s(mode: Mode | None, line_mbit_s: int | None) -> int:
    """What the customer gets: 65 % of the PHY rate, capped by the line into the house."""
    if mode is None:
        return 0
    rate = phy_mbit_s(mode.standard, mode.streams, mode.width_mhz) * float(DELIVERED[1])
    return round(min(rate, line_mbit_s) if line_mbit_s is not None else rate)
