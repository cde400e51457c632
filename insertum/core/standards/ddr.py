"""DDR memory modules: label grammar, chip density, grades, latency, bandwidth, channels.

Figures: JEDEC JESD79-3/-4/-5 (speed grades, chip densities), JESD21-C / JESD300 annexes
(module label). Rates are in MT/s, capacities in GB (2**30 bytes), densities in Gbit.
"""

import math
import re
from fractions import Fraction
from functools import cache

from ..base import Frozen, InputError

GRADES: dict[int, tuple[int, ...]] = {
    3: (800, 1066, 1333, 1600, 1866, 2133),
    4: (1600, 1866, 2133, 2400, 2666, 2933, 3200),
    5: tuple(range(3200, 8801, 400)),
}
#: Chip densities that exist (JESD79-3F, -4D, -5C: addressing tables).
DENSITIES: dict[int, tuple[int, ...]] = {3: (1, 2, 4, 8), 4: (4, 8, 16), 5: (16, 24, 32)}
#: Sizes modules come in, in GB; ranks and chip widths they are built with.
CAPACITIES_GB = (1, 2, 4, 8, 12, 16, 24, 32, 48, 64, 96, 128, 256)
#: Memory channels of a laptop's processor, as boards name them.
CHANNELS = ("A", "B")
RANKS, WIDTHS = (1, 2, 4, 8), (4, 8, 16)
#: What a SO-DIMM is built with: one or two ranks of x8 or x16 chips.
SODIMM_RANKS, SODIMM_WIDTHS = (1, 2), (8, 16)
#: SO-DIMM contacts (JEDEC MO-268, MO-310, MO-337).
SODIMM_PINS = {2: 200, 3: 204, 4: 260, 5: 262}
#: Length and height of a SO-DIMM in mm, by generation.
SODIMM_MM = {3: (67.6, 30.0), 4: (69.6, 30.0), 5: (69.6, 30.0)}
MODULE_TYPES = {
    "S": "SO-DIMM",
    "T": "SO-DIMM with ECC",
    "U": "UDIMM",
    "E": "UDIMM with ECC",
    "R": "registered DIMM",
    "L": "load-reduced DIMM",
}
_DDR3_MB_S = {6400: 800, 8500: 1066, 8533: 1066, 10600: 1333, 10667: 1333, 12800: 1600, 14900: 1866, 17000: 2133}
#: CL at the grade's own rate by bin letter, DDR4 (JESD79-4, speed bin tables).
_CL_DDR4 = {"P": 15, "R": 16, "T": 17, "U": 18, "V": 19, "W": 20, "Y": 21, "AA": 22, "AC": 24}
#: CL for the DDR5 bins we are certain of (JESD79-5, speed bin tables); others stay unknown.
_CL_DDR5 = {(4800, "B"): 40, (5200, "B"): 42, (5600, "B"): 46, (6400, "B"): 52}


class MemoryLabel(Frozen):
    """What a module label proves. A piece the label does not carry is None and named in
    ``missing``; codes nobody could read stand in ``unread``."""

    generation: int
    capacity_gb: int | None = None
    ranks: int | None = None
    chip_width: int | None = None
    grade_mts: int | None = None
    bin: str | None = None
    cl: int | None = None
    module_type: str | None = None
    module_type_name: str | None = None
    raw_card: str | None = None
    raw_card_revision: str | None = None
    spd_revision: str | None = None
    low_voltage: bool | None = None
    density_gbit: int | None = None
    modules: int = 1
    missing: tuple[str, ...] = ()
    unread: tuple[str, ...] = ()


def density_gbit(capacity_gb: int, ranks: int, chip_width: int) -> Fraction:
    """Density of one chip in Gbit: capacity × 8 × width ÷ (ranks × 64 data bits)."""
    return Fraction(capacity_gb * 8 * chip_width, ranks * 64)


@cache
def exact_mts(grade_mts: int) -> Fraction:
    """The exact rate behind a rounded grade: 2666 and 2667 are both 8000/3."""
    return Fraction(400, 3) * round(Fraction(grade_mts * 3, 400))


def same_grade(a: int, b: int) -> bool:
    """2666 and 2667 are one grade, as are 2133/2134 and 1066/1067."""
    return exact_mts(a) == exact_mts(b)


def shown_as_half(running_mts: int, rated_mts: int) -> bool:
    """Could a running rate be the clock of memory that runs at its rating? Tools and firmware show the clock (half of
    the transfers) for the rate now and then, and nothing tells which it is."""
    return abs(exact_mts(running_mts) * 2 - exact_mts(rated_mts)) <= 2


def truly_running(running_mts: int, rated_mts: int | None, generation: int | None) -> int | None:
    """The rate behind what a tool shows; None where it could be two. A rate that is half of the rating and no grade
    of its generation is a clock; one that is a grade too (DDR4 at 1600 of 3200) may be either. Without a rating, a
    rate below every grade of the generation is a clock."""
    grades = [exact_mts(g) for g in GRADES.get(generation or 0, ())]
    shown = exact_mts(running_mts)
    if rated_mts and shown_as_half(running_mts, rated_mts):
        return rated_mts if grades and shown not in grades else None
    if not rated_mts and grades and shown < min(grades):
        return next((g for g in GRADES[generation or 0] if abs(exact_mts(g) - 2 * shown) <= 2), None)
    return running_mts


def grade_of_bandwidth(generation: int, mb_s: int) -> int | None:
    """Grade from a PC number in MB/s (PC4-21300 -> 2666, PC5-44800 -> 5600); None if there is none."""
    if generation == 3:
        return _DDR3_MB_S.get(mb_s)
    for grade in GRADES[generation]:
        exact = exact_mts(grade) * 8
        # Makers round down to hundreds or to the nearest: 2666⅔ × 8 is sold as 21300 and as 21333.
        if mb_s in (int(exact), round(exact), int(exact) // 100 * 100):
            return grade
    return None


def cl_at(cl: int, rated_mts: int, running_mts: int, generation: int) -> int:
    """CAS latency a module needs at a slower rate: ⌈tAA ÷ clock period⌉, even in DDR5."""
    t_aa = Fraction(2000 * cl) / exact_mts(rated_mts)
    clocks = math.ceil(t_aa / (2000 / exact_mts(running_mts)))
    return clocks + clocks % 2 if generation == 5 else clocks


def latency_ns(cl: int, mts: int) -> float:
    """True latency: CL × 2000 ÷ MT/s."""
    return float(Fraction(2000 * cl) / exact_mts(mts))


def bandwidth_gb_s(mts: int, channels: int = 1) -> float:
    """Peak transfer in GB/s (10**9) over 64-bit channels: 3200 -> 25.6 one, 51.2 two."""
    return float(exact_mts(mts) * 8 * channels / 1000)


class Split(Frozen):
    """How capacity spreads over two channels, in GB."""

    interleaved_gb: int
    single_gb: int

    @property
    def total_gb(self) -> int:
        return self.interleaved_gb + self.single_gb


def split(channel_totals: list[int]) -> Split:
    """Interleaved 2·min(a, b), the rest |a − b| in one channel: 4 and 16 give 8 + 12."""
    if len(channel_totals) == 1:
        channel_totals = [*channel_totals, 0]
    a, b = channel_totals
    return Split(interleaved_gb=2 * min(a, b), single_gb=abs(a - b))


def throughput_mb_s(parts: Split, mts: int) -> int:
    """Capacity-weighted throughput in MB/s: total ÷ (interleaved ÷ two-channel rate + rest ÷ one)."""
    if not parts.total_gb:
        return 0
    one = exact_mts(mts) * 8
    share = Fraction(parts.interleaved_gb) / (2 * one) + Fraction(parts.single_gb) / one
    return round(parts.total_gb / share)


#: No label is longer; what is, is no label.
MOST_LABEL = 1000
#: A size stands by itself: not inside a part number, and not as a link's rate (6 Gb/s).
_CAPACITY = re.compile(r"(?<![\w.-])(\d{1,4})\s?G(?:I?B)?\b(?!\s?(?:/\s?S|PS|IT|B/S))")
_KIT = re.compile(r"(?<![\w.-])([2-8])\s?[X×]\s?(\d{1,3})\s?G(?:I?B)?\b(?!\s?(?:/\s?S|PS))")
_KIT_OF = re.compile(r"\bKIT OF ([2-8])\b|\b([2-8])[ -]?(?:PACK|PC|PCS)\b|\(([2-8])\)\s?KIT\b")
_RANKS = re.compile(r"\b(\d{1,6})\s?R\s?[X×]\s?(\d{1,6})\b")
_PC = re.compile(r"\bPC(\d)([LU]?)\s?-?\s?(\d{4,6})(?:\s?([A-Z]{1,2})(?![A-Z]))?")
#: Type letter, raw card and its revision stand joined (SE1), with the SPD revision after them.
_CARD = re.compile(r"^\s?-?\s?([A-Z])([A-Z])(\d)(?![\dA-Z])(?:\s?-\s?(\d{2,4})(?:\s?-\s?([A-Z]{2}))?)?")
#: Or the type letter stands alone right after the speed, and then it is an S or a T.
_ALONE = re.compile(r"^\s?-?\s?([ST])(?![\dA-Z])")
_CL = re.compile(r"\bCL\s?-?(\d{1,2})\b")
#: A word says more than a letter.
_TYPE_WORDS = (
    (re.compile(r"\bLR-?DIMM\b|\bLOAD[- ]REDUCED\b"), "L"),
    (re.compile(r"\bR-?DIMM\b|\bREGISTERED\b"), "R"),
    (re.compile(r"\bU-?DIMM\b|\bDESKTOP\b|\bLONG-?DIMM\b"), "U"),
    (re.compile(r"\bSO-?DIMM\b"), "S"),
)
_DDR3_TAIL = re.compile(r"^\s*-?\s*(\d{1,2})(?:\s*-\s*(\d{2}))?(?:\s*-\s*([A-Z])(\d)?)?")


def read_label(text: str) -> MemoryLabel:
    """Read a memory label such as ``16GB 2Rx8 PC4-3200AA-SE1-11``.

    Spacing, case and trailing codes may vary; what is missing is reported. Raises
    :class:`InputError` for nonsense: no PC code, ranks or widths that do not exist, a density no
    chip has, a grade its generation lacks.
    """
    if len(text) > MOST_LABEL:
        raise InputError(f"{len(text)} characters are no label", f"label {text[:30]!r}…", "Type one label's line.")
    line = " ".join(text.upper().split())
    pc = _PC.search(line)
    if not pc:
        raise InputError("no PC code in it", f"label {text!r}", "A memory label carries PC3, PC4 or PC5 and a number.")
    generation, number = int(pc[1]), int(pc[3])
    if generation == 2:
        raise InputError("DDR2 is recognised but not planned for", f"label {text!r}", "Nothing to buy here.")
    if generation not in GRADES:
        raise InputError(f"no generation PC{generation}", f"label {text!r}", "Read it again: PC3, PC4 or PC5.")
    by_bandwidth = generation == 3 or number >= 12800
    grade = grade_of_bandwidth(generation, number) if by_bandwidth else number
    if grade not in (None, *GRADES[generation]):
        grade = next((g for g in GRADES[generation] if same_grade(g, grade or 0)), None)
    if grade is None:
        raise InputError(f"{number} is no DDR{generation} grade", f"label {text!r}", "Read the number again.")
    got: dict[str, object] = {"generation": generation, "grade_mts": grade}
    rest = line[pc.end() :]
    letters, tail_end = pc[4] or "", 0
    if generation == 3:
        got["low_voltage"] = pc[2] in ("L", "U")
        if letters[:1] in MODULE_TYPES:
            got["module_type"] = letters[0]
        if tail := _DDR3_TAIL.match(rest):
            got |= {"cl": int(tail[1]), "spd_revision": tail[2], "raw_card": tail[3], "raw_card_revision": tail[4]}
            tail_end = tail.end()
    else:
        apart = line[pc.end(3) : pc.start(4)] if letters else ""
        if letters in ("S", "T") and apart:
            got["module_type"], letters = letters, ""  # alone after the speed it is the type, joined to it the bin
        got["bin"] = letters or None
        got["cl"] = _CL_DDR4.get(letters) if generation == 4 else _CL_DDR5.get((grade, letters))
        if alone := _ALONE.match(rest):
            got["module_type"], tail_end = alone[1], alone.end()
        if card := _CARD.match(rest):
            if card[1] not in MODULE_TYPES:
                raise InputError(f"no module type {card[1]}", f"label {text!r}", "It is one of S, T, U, E, R, L.")
            got |= {"module_type": card[1], "raw_card": card[2], "raw_card_revision": card[3]}
            got["spd_revision"] = "-".join(x for x in (card[4], card[5]) if x) or None
            tail_end = card.end()
    if cl := _CL.search(line):
        got["cl"] = int(cl[1])
    for word, letter in _TYPE_WORDS:
        if word.search(line):
            both = {("S", "T"): "T", ("U", "E"): "E"}.get((letter, str(got.get("module_type"))), letter)
            got["module_type"] = both  # "SO-DIMM" beside a T is still one with ECC
            break
    size = _size_of(line, text)
    if size is not None:
        got["capacity_gb"], got["modules"] = size
    if chips := _RANKS.search(line):
        ranks, width = int(chips[1]), int(chips[2])
        if ranks not in (1, 2, 4, 8) or width not in (4, 8, 16):
            raise InputError(
                f"{ranks}Rx{width} does not exist", f"label {text!r}", "Ranks are 1, 2, 4, 8 and widths x4, x8, x16."
            )
        got |= {"ranks": ranks, "chip_width": width}
        if size:
            density = density_gbit(size[0], ranks, width)
            if density not in DENSITIES[generation]:
                raise InputError(
                    f"{size[0]} GB as {ranks}Rx{width} would need chips of {float(density):g} Gbit, which DDR{generation} "
                    "does not have",
                    f"label {text!r}",
                    "The label is misread: read capacity and ranks again.",
                )
            got["density_gbit"] = int(density)
    if module_type := got.get("module_type"):
        got["module_type_name"] = MODULE_TYPES[str(module_type)]
    wanted = ("capacity_gb", "ranks", "chip_width", "module_type", "raw_card", "spd_revision")
    left = [w for w in re.split(r"[\s,]+", rest[tail_end:]) if w]
    return MemoryLabel.model_validate(
        got | {"missing": tuple(w for w in wanted if got.get(w) is None), "unread": tuple(left)}
    )


def _size_of(line: str, text: str) -> tuple[int, int] | None:
    """(GB of one module, number of modules): a kit's total is shared out over its modules."""
    kit, of = _KIT.search(line), _KIT_OF.search(line)
    plain = _CAPACITY.search(line)
    if kit:
        count, one = int(kit[1]), int(kit[2])
        if plain and int(plain[1]) not in (one, count * one):
            raise InputError(f"{plain[1]} GB and {count} × {one} GB do not agree", f"label {text!r}", "Read it again.")
    elif plain:
        count = int(next(g for g in of.groups() if g)) if of else 1
        one, rest = divmod(int(plain[1]), count)
        if rest:
            raise InputError(f"{plain[1]} GB are no {count} like modules", f"label {text!r}", "Read it again.")
    else:
        return None
    if one not in CAPACITIES_GB:
        raise InputError(f"no module has {one} GB", f"label {text!r}", "Read the size again.")
    return one, count


def print_label(label: MemoryLabel) -> str:
    """The standard's own text for a label; missing pieces are left out."""
    head = [f"{label.capacity_gb}GB"] if label.capacity_gb else []
    if label.ranks:
        head.append(f"{label.ranks}Rx{label.chip_width}")
    if label.generation == 3:
        number = next(n for n, g in _DDR3_MB_S.items() if g == label.grade_mts)
        code = f"PC3{'L' if label.low_voltage else ''}-{number}{label.module_type or ''}"
        tail = (
            str(label.cl) if label.cl else "",
            label.spd_revision,
            (label.raw_card or "") + (label.raw_card_revision or ""),
        )
    else:
        code = f"PC{label.generation}-{label.grade_mts}{label.bin or ''}"
        card = "".join(x or "" for x in (label.module_type, label.raw_card, label.raw_card_revision))
        tail = (card, label.spd_revision, "")
    return " ".join([*head, "-".join([code, *(t for t in tail if t)])])
