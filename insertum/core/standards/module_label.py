"""The text on a memory module's label, and what it proves.

JEDEC's line (JESD21-C, JESD401: ``16GB 2Rx8 PC4-3200AA-SE1-11``) or a seller's sticker (``16GB DDR4-3200 SO-DIMM``).
Rates are in MT/s, capacities in GB (2**30 bytes), densities in Gbit.
"""

import re

from ..errors import InputError, whole_text
from ..frozen import Frozen
from .ddr import (
    CAPACITIES_GB,
    DENSITIES,
    GRADES,
    MODULE_TYPES,
    RANKS,
    WIDTHS,
    density_gbit,
    grade_of_bandwidth,
    same_grade,
)

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


#: No label is longer; what is, is no label.
MOST_LABEL = 1000
#: Speed bins by generation: a letter apart from the speed is one of these, or something else.
_BINS = {4: {*"JKLMNPRTUVWY", "AA", "AC"}, 5: {"A", "AN", "B", "BN", "C"}}
#: A size stands by itself: not inside a part number, and not as a link's rate (6 Gb/s).
_CAPACITY = re.compile(r"(?<![\w.-])(\d{1,4})\s?G(?:I?B)?\b(?!\s?(?:/\s?S|PS|IT|B/S))")
_KIT = re.compile(r"(?<![\w.-])([2-8])\s?[X×]\s?(\d{1,3})\s?G(?:I?B)?\b(?!\s?(?:/\s?S|PS))")
_KIT_BEHIND = re.compile(r"(?<![\w.-])(\d{1,3})\s?GI?B\s?[X×]\s?([2-8])\b")
_KIT_OF = re.compile(r"\bKIT OF ([2-8])\b|\b([2-8])[ -]?(?:PACK|PC|PCS)\b|\(([2-8])\)\s?KIT\b")
_RANKS = re.compile(r"\b(\d{1,6})\s?R\s?[X×]\s?(\d{1,6})\b")
_PC = re.compile(r"\bPC(\d)([LU]?)\s?-?\s?(\d{4,6})(?:(\s?)([A-Z]{1,2})(?![A-Z]))?")
#: A sticker's own words: generation, and the rate behind it or by its unit. Soldered LPDDR and GDDR are no modules.
_DDR = re.compile(
    r"(?<![A-Z\d])DDR-?(\d)(L?)(?![A-Z])(?:\s?-?\s?(\d{3,5})(?!\d|\s?[MG]I?B)(?:(\s?)([A-Z]{1,2})(?![A-Z]))?)?"
)
#: Every generation that is named, whatever stands behind it.
_NAMED = re.compile(r"(?<![A-Z\d])(PC|DDR)-?(\d)(?!\d)")
_RATE = re.compile(r"(?<![\w.])(\d{3,5})\s?(?:MHZ|MT/S)\b")
#: Type letter, raw card and its revision stand joined (SE1), with the SPD revision after them.
_CARD = re.compile(r"\s?-?\s?([A-Z])([A-Z])(\d)(?![\dA-Z])(?:\s?-\s?(\d{2,4})(?:\s?-\s?([A-Z]{2}))?)?")
#: Or the type letter stands alone right after the speed, and then it is an S or a T.
_ALONE = re.compile(r"\s?-?\s?([ST])(?![\dA-Z])")
#: Latency, SPD revision and raw card of a DDR3 label, each behind its hyphen.
_DDR3_TAIL = re.compile(r"\s?-\s?(\d{1,2})(?![\dA-Z]|\s?G)(?:\s?-\s?(\d{2})(?!\d))?(?:\s?-\s?([A-Z])(\d)?(?![\dA-Z]))?")
_CL = re.compile(r"\bCL\s?-?(\d{1,2})\b")
_VOLTS = re.compile(r"(?<![\w.,])1[.,](\d{1,2})\s?V\b")
#: DDR5 chips correct within themselves: that makes no module with ECC.
_NO_ECC = re.compile(r"\b(?:NON?[ -]?|ON[ -]DIE )ECC\b")
_ECC = re.compile(r"\bECC\b")
#: A word says more than a letter, and so does the number of pins.
_TYPE_WORDS = (
    (re.compile(r"\bLR-?DIMM\b|\bLOAD[- ]REDUCED\b"), "L"),
    (re.compile(r"\bR-?DIMM\b|\bREGISTERED\b"), "R"),
    (re.compile(r"\bU-?DIMM\b|\bDESKTOP\b|\bLONG-?DIMM\b|\b(?:240|288)[- ]?PINS?\b"), "U"),
    (re.compile(r"\bSO-?DIMM\b|\b(?:204|260|262)[- ]?PINS?\b"), "S"),
)


class _Line:
    """A label in capitals, and which stretches of it were read."""

    def __init__(self, text: str) -> None:
        self.text = " ".join(text.upper().split())
        self.read: list[tuple[int, int]] = []

    def find(self, pattern: re.Pattern[str], at: int | None = None) -> re.Match[str] | None:
        """The first place the pattern stands, or the very place ``at``; it counts as read."""
        found = pattern.search(self.text) if at is None else pattern.match(self.text, at)
        if found:
            self.read.append(found.span())
        return found

    def unread(self) -> tuple[str, ...]:
        left = list(self.text)
        for start, end in self.read:
            left[start:end] = " " * (end - start)
        words = (w.strip("()[]-/;:·*") for w in re.split(r"[\s,]+", "".join(left)))
        return tuple(w for w in words if w)


def names_module(text: str) -> bool:
    """Does the text speak of a module's generation, in JEDEC's code or in words?"""
    upper = text.upper()
    return bool(_DDR.search(upper)) or has_code(text)


def has_code(text: str) -> bool:
    """Does JEDEC's own code stand in it?"""
    return bool(re.search(r"\bPC\d", text.upper()))


def read_label(text: str) -> MemoryLabel:
    """Read a memory label such as ``16GB 2Rx8 PC4-3200AA-SE1-11`` or ``16GB DDR4-3200 SO-DIMM``.

    Spacing, case and trailing codes may vary; what is missing is reported, and so is what could not be read. Raises
    :class:`InputError` for nonsense: no generation, ranks or widths that do not exist, a density no chip has, a grade
    its generation lacks, a code and a word that do not agree.
    """
    where = f"label {text!r}"
    if len(text) > MOST_LABEL:
        raise InputError(f"{len(text)} characters are no label", f"label {text[:30]!r}…", "Type one label's line.")
    line = _Line(whole_text(text, "label"))
    code, word = line.find(_PC), line.find(_DDR)
    named = code or word
    if not named:
        raise InputError("no PC code in it", where, "A memory label carries PC3, PC4 or PC5 and a number.")
    generation = int(named[1])
    said = {m[0]: m[2] for m in _NAMED.finditer(line.text)}
    if len(set(said.values())) > 1:
        raise InputError(f"{' and '.join(said)} do not agree", where, "Read it again: one of them is misread.")
    if generation == 2:
        raise InputError("DDR2 is recognised but not planned for", where, "Nothing to buy here.")
    if generation not in GRADES:
        says = f"PC{generation}" if code else f"DDR{generation}"
        raise InputError(f"no generation {says}", where, "Read it again: PC3, PC4 or PC5.")
    grade = _grade_of(line, generation, [m for m in (code, word) if m], where)
    got: dict[str, object] = {"generation": generation, "grade_mts": grade}
    if generation == 3:
        got |= _ddr3_tail(line, code) if code else {"low_voltage": True if named[2] else None}
        # What is printed in volts stands above what the code leaves out.
        for volts in _VOLTS.finditer(line.text):
            if volts[1] in ("35", "25"):
                got["low_voltage"] = True
            elif volts[1] in ("5", "50") and got["low_voltage"] is None:
                got["low_voltage"] = False
    elif named[3] and grade:
        got |= _tail(line, named, generation, grade, where)
    line.read += [m.span() for m in _VOLTS.finditer(line.text)]
    if cl := line.find(_CL):
        got["cl"] = int(cl[1])
    if kind := _type_of(line, str(got.get("module_type"))):
        got |= {"module_type": kind, "module_type_name": MODULE_TYPES[kind]}
    size = _size_of(line, where)
    if size is not None:
        got["capacity_gb"], got["modules"] = size
    if chips := line.find(_RANKS):
        got |= _organisation(int(chips[1]), int(chips[2]), size[0] if size else None, generation, where)
    wanted = ("capacity_gb", "ranks", "chip_width", "grade_mts", "module_type", "raw_card", "spd_revision")
    missing = tuple(w for w in wanted if got.get(w) is None)
    return MemoryLabel.model_validate(got | {"missing": missing, "unread": line.unread()})


def _organisation(ranks: int, width: int, size_gb: int | None, generation: int, where: str) -> dict[str, object]:
    """Ranks and chip width, and with the size the density they need; raises for what no chip has."""
    if ranks not in RANKS or width not in WIDTHS:
        raise InputError(f"{ranks}Rx{width} does not exist", where, "Ranks are 1, 2, 4, 8 and widths x4, x8, x16.")
    got: dict[str, object] = {"ranks": ranks, "chip_width": width}
    if size_gb:
        density = density_gbit(size_gb, ranks, width)
        if density not in DENSITIES[generation]:
            raise InputError(
                f"{size_gb} GB as {ranks}Rx{width} would need chips of {float(density):g} Gbit, which DDR{generation} "
                "does not have",
                where,
                "The label is misread: read capacity and ranks again.",
            )
        got["density_gbit"] = int(density)
    return got


def _grade_of(line: _Line, generation: int, told: list[re.Match[str]], where: str) -> int | None:
    """The one grade that code and word name, or else a rate with its unit; None where none of them tells it."""
    grades = {_grade(generation, int(m[3]), where): m for m in told if m[3]}
    if len(grades) > 1:
        words = " and ".join(m[0][: m.end(3) - m.start()] for m in grades.values())
        raise InputError(f"{words} do not agree", where, "Read it again: which of them is the speed?")
    grade = next(iter(grades), None)
    rate = _RATE.search(line.text)
    if rate and (grade is None or same_grade(int(rate[1]), grade)):
        line.find(_RATE)
        return _grade(generation, int(rate[1]), where)
    return grade


def _grade(generation: int, number: int, where: str) -> int:
    """A grade by its rate in MT/s, or by its bandwidth in MB/s: no number can be both."""
    grade = next((g for g in GRADES[generation] if same_grade(g, number)), None)
    grade = grade or grade_of_bandwidth(generation, number)
    if grade is None:
        raise InputError(f"{number} is no DDR{generation} grade", where, "Read the number again.")
    return grade


def _ddr3_tail(line: _Line, code: re.Match[str]) -> dict[str, object]:
    """PC3L-12800S-11-11-B2: L for 1.35 V, the type joined to the speed, then latency, SPD revision and raw card."""
    got: dict[str, object] = {"low_voltage": code[2] in ("L", "U")}
    letters, end = code[5] or "", code.end()
    if letters[:1] in MODULE_TYPES and (not code[4] or len(letters) == 1):
        got["module_type"] = letters[0]
    elif letters:
        end = _given_back(line, code)
    if tail := line.find(_DDR3_TAIL, end):
        got |= {"cl": int(tail[1]), "spd_revision": tail[2], "raw_card": tail[3], "raw_card_revision": tail[4]}
    return got


def _tail(line: _Line, named: re.Match[str], generation: int, grade: int, where: str) -> dict[str, object]:
    """PC4-3200AA-SE1-11, PC5-4800B-SA0-1010-XT: bin, then type with raw card and SPD revision, or the type alone."""
    got: dict[str, object] = {}
    apart, letters, end = named[4], named[5], named.end()
    if apart and letters in ("S", "T"):
        got["module_type"] = letters  # alone after the speed it is the type, joined to it the bin
    elif apart and letters not in _BINS[generation]:
        end = _given_back(line, named)
    elif letters:
        got |= {"bin": letters, "cl": _CL_DDR4.get(letters) if generation == 4 else _CL_DDR5.get((grade, letters))}
    if alone := line.find(_ALONE, end):
        got["module_type"] = alone[1]
    if card := line.find(_CARD, end):
        if card[1] not in MODULE_TYPES:
            raise InputError(f"no module type {card[1]}", where, "It is one of S, T, U, E, R, L.")
        got |= {"module_type": card[1], "raw_card": card[2], "raw_card_revision": card[3]}
        got["spd_revision"] = "-".join(x for x in (card[4], card[5]) if x) or None
    return got


def _given_back(line: _Line, named: re.Match[str]) -> int:
    """What stands apart behind the speed is no bin: it is not read yet. Where it begins."""
    line.read.remove(named.span())
    line.read.append((named.start(), named.end(3)))
    return named.end(3)


def _type_of(line: _Line, letter: str) -> str | None:
    """The module's type: a word's before the letter's, with ECC where either says so."""
    plain = line.find(_NO_ECC)
    ecc = None if plain else line.find(_ECC)
    said = next((w for pattern, w in _TYPE_WORDS if line.find(pattern)), None)
    kind = said or letter
    if ecc or (letter in ("T", "E") and said):  # "SO-DIMM" beside a T is still one with ECC
        kind = {"S": "T", "U": "E"}.get(kind, kind)
    return kind if kind in MODULE_TYPES else None


def _size_of(line: _Line, where: str) -> tuple[int, int] | None:
    """(GB of one module, number of modules): a kit's total is shared out over its modules."""
    kit, behind, of = line.find(_KIT), line.find(_KIT_BEHIND), line.find(_KIT_OF)
    plain = line.find(_CAPACITY)
    if counted := kit or behind:
        count, one = (int(counted[g]) for g in ((1, 2) if kit else (2, 1)))
        if plain and int(plain[1]) not in (one, count * one):
            raise InputError(f"{plain[1]} GB and {count} × {one} GB do not agree", where, "Read it again.")
    elif plain:
        count = int(next(g for g in of.groups() if g)) if of else 1
        one, rest = divmod(int(plain[1]), count)
        if rest:
            raise InputError(f"{plain[1]} GB are no {count} like modules", where, "Read it again.")
    else:
        return None
    if one not in CAPACITIES_GB:
        raise InputError(f"no module has {one} GB", where, "Read the size again.")
    return one, count
