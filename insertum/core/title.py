"""A part from a supplier's title: what its words prove of it, or why it is none that a laptop takes.

Titles are advertisements: only figures with their unit and words that mean one thing count. What a title leaves open
stays unknown; a title that leaves open what kind of part it is, is asked about.
"""

import re
from typing import Any

from .base import Frozen
from .standards import ddr, pack


class Title(Frozen):
    """``fields`` are a part's, as the parts format holds them. Where they are none, ``left_out`` says why it is no part
    for a laptop, or ``asked`` what has to be known first."""

    number: str = ""
    fields: dict[str, Any] = {}
    asked: str = ""
    left_out: str = ""


_SERVICE = re.compile(r"\b(?:freight|carriage|shipping|postage|handling|packing|versand\w*|porto|fracht\w*|frais\s+de\s+port|livraison|deposit|pfand|gift\s+card|gutschein|voucher|discount|rabatt|insurance|per\s+hour|labou?r|recovery|service\s+fee|warranty\s+extension)\b", re.I)  # fmt: skip
_ELSEWHERE = (
    (re.compile(r"\b3[.,]5\s*-?\s*(?:inch|in\b|\"|zoll|pouces)", re.I), "a 3.5-inch drive: no laptop takes it"),
    (
        re.compile(r"\bexternal\b|\bextern\w*|\bportable\s+SSD\b|\bUSB[- ](?:drive|stick|SSD)\b", re.I),
        "something outside the machine",
    ),
    (re.compile(r"\b(?:micro)?SD(?:HC|XC)?\s+card\b|\bflash\s+card\b", re.I), "a memory card"),
    (re.compile(r"\bU\.[23]\b|\bSAS\b|\bE1\.S\b|\benterprise\s+NVMe\b", re.I), "a server's drive"),
)
_DESKTOP = re.compile(
    r"\b(?:U|R|LR)-?DIMM\b|(?<!SO-)(?<!SO)\bDIMM\b|\b288-?\s?pin\b|\b240-?\s?pin\b|\bdesktop\b|\bserver\s+memory\b|\bregistered\b",
    re.I,
)
_SODIMM = re.compile(
    r"\bSO-?DIMMs?\b|\b(?:204|260|262)-?\s?pins?\b|\blaptop\s+memory\b|\bnotebook\s+(?:memory|speicher)\b", re.I
)
_KIT = re.compile(r"\b[248]\s?x\s?\d{1,3}\s?G(?:B|o)\b|\bkit\b|\bset\s+of\b|\b\d{1,3}\s?G(?:B|o)\s?x\s?[248]\b", re.I)
_DDR = re.compile(r"\bDDR([2345])(L)?(?:[- ]?(\d{3,5})(?:\s?/\s?(\d{3,5}))?)?\b", re.I)
_RATE = re.compile(r"(?<!\d)(\d{3,5})\s?(?:MHz|MT/s)\b", re.I)
_BANDWIDTH = re.compile(r"\bPC([2345])L?-?(\d{4,6})\b", re.I)
_GB = re.compile(r"(?<![\d.,])(\d{1,4})\s?G(?:B|o)\b(?!\s?/?\s?s\b|ps)", re.I)
_SIZE = re.compile(r"(?<![\d.,])(\d+(?:[.,]\d+)?)\s?(T|G)(?:B|o)\b(?!\s?/?\s?s\b|ps)", re.I)
_RANKS = re.compile(r"\b([1248])Rx(4|8|16)\b", re.I)
_CL = re.compile(r"\bCL\s?(\d{2})\b", re.I)
_CARD = re.compile(r"(?<![\d.])(22|30)(30|42|52|60|80|110)(?![\d.,]?\d)(?:-([SD]\d))?")
_FLAT = re.compile(r"(?<![\d.,])2[.,]5\s*-?\s*(?:inch|in\b|\"|''|zoll|pouces)", re.I)
_MM = re.compile(r"(?<![\d.,])(5|7|9[.,]5|12[.,]5|15)\s?mm\b", re.I)
_GEN = re.compile(
    r"\b(?:PCI-?e(?:xpress)?|NVMe)\s*(?:Gen\.?\s*)?([345])(?:\.0)?(?:\s*[x×]\s*([24])\b)?|\bGen\.?\s?([345])(?:\s*[x×]\s*([24])\b)?",
    re.I,
)
_READ = re.compile(r"(?<![\d.,])(\d{1,2}[.,]?\d{3}|\d{3})\s?MB/s", re.I)
_SPINS = re.compile(r"\bHDD\b|\b(?:5400|7200)\s?rpm\b|\bhard\s+(?:disk|drive)\b|\bfestplatte\b|\bdisque\s+dur\b", re.I)
_WIFI = re.compile(r"\bWi-?Fi\s?([4567])E?\b|\b802\.11\s?(?:(?:ac|ax|a|b|g|n)\s?/\s?)*(n|ac|ax|be)\b", re.I)
_STREAMS = re.compile(r"(?<![\d.])([1-4])\s?[x×]\s?\1(?![\d.])")
_BLUETOOTH = re.compile(r"\b(?:Bluetooth|BT)\s?(\d(?:\.\d)?)\b", re.I)
_KEYS = re.compile(r"\bkey[- ]?([ABEM])(?:\s?\+\s?([ABEM]))?\b|\b([ABE])(?:\+([ME]))?[- ]key\b", re.I)
_MODEM = re.compile(r"\b(?:LTE|WWAN|[45]G)\b(?!\s?Hz)", re.I)
_PACK = re.compile(r"\bbatter(?:y|ie)\b|\bakku\b|\bpack\b", re.I)
_WH = re.compile(r"(?<![\d.,])(\d{2,3}(?:[.,]\d{1,2})?)\s?Wh\b", re.I)
_VOLT = re.compile(r"(?<![\d.,])(\d{1,2}[.,]\d{1,2})\s?V\b")
#: What a laptop part's accessory is called: its sizes are typed, because a title rarely says both of them.
_ACCESSORY = re.compile(r"\bbracket\b|\badapter\b|\benclosure\b|\bcaddy\b|\bribbon\b|\bscrews?\b|\bthermal\s+pad\b|\bspacer\b|\bstandoff\b|\bgehäuse\b|\bhalterung\b|\bboîtier\b", re.I)  # fmt: skip
#: Words in capitals with digits that are standards' and nobody's numbers.
_STANDARD = re.compile(r"(?:DDR\d|PC\d|LPDDR|USB|PCIE|NVME|SATA|WI-?FI|802|M\.2|SO-?DIMM|\d+GB|\d+TB|\d+RX\d|CL\d|GEN\d|\d+MM|\d+WH|\d+V|\d+MHZ|(?:22|30|12|16)\d\d-)", re.I)  # fmt: skip
_NUMBER = re.compile(r"(?<![\w./-])(?=[\w./-]*\d)(?=[\w./-]*[A-Za-z])[A-Za-z0-9][A-Za-z0-9./-]{3,29}(?![\w/-])")


def spins(text: str) -> bool:
    """Do the words speak of a spinning drive?"""
    return bool(_SPINS.search(text))


def read_title(title: str, number: str = "") -> Title:
    """What a title says of a part. ``number`` is the supplier's or maker's number, where the list has it apart."""
    text = " ".join(title.split())[:400]
    number = number or _number_in(text)
    if _SERVICE.search(text):
        return Title(number=number, left_out="no part: freight or a service")
    for words, why in _ELSEWHERE:
        if words.search(text):
            return Title(number=number, left_out=why)
    if _ACCESSORY.search(text):
        return Title(number=number, asked="an accessory: its sizes have to be typed")
    for read in (_module, _modem, _radio, _pack, _drive):
        found = read(text)
        if found is not None:
            if found.fields and not number:
                return Title(asked="no part number in it", fields=found.fields)
            return found.model_copy(update={"number": number})
    return Title(number=number, asked="the title does not say what kind of part it is")


def _number_in(text: str) -> str:
    """The one word that looks like a part number: letters and digits, and no standard's code."""
    found = [m[0].strip("./-") for m in _NUMBER.finditer(text)]
    found = [w for w in found if not _STANDARD.match(w) and ("-" in w or len(w) >= 6)]
    return found[0] if len(set(found)) == 1 else ""


def _module(text: str) -> Title | None:
    kind = _DDR.search(text) or _BANDWIDTH.search(text)
    if kind is None and not _SODIMM.search(text):
        return None
    if re.search(r"\bGDDR|\bLPDDR", text, re.I):
        return Title(left_out="graphics or soldered memory: nothing for a socket")
    if _DESKTOP.search(text) and not _SODIMM.search(text):
        return Title(left_out="a desktop's or server's module")
    if _KIT.search(text):
        return Title(left_out="a kit: its price is not one module's")
    ddr_ = _DDR.search(text)
    generation = int(ddr_[1]) if ddr_ else int(kind[1]) if kind else 0
    sizes = {int(m[1]) for m in _GB.finditer(text)}
    grade = _grade(text, generation)
    if not _SODIMM.search(text) and not re.search(r"-S[A-Z]\d", text):
        return Title(asked="a laptop's module (SO-DIMM), or a desktop's?")
    if len(sizes) != 1 or not generation or not grade:
        missing = [w for w, ok in (("size", len(sizes) == 1), ("generation", generation), ("grade", grade)) if not ok]
        return Title(asked=f"the module's {' and '.join(missing)} cannot be told from it")
    fields: dict[str, Any] = {
        "kind": "memory", "generation": generation, "capacity_gb": sizes.pop(), "grade_mts": grade,
        "module_type": "T" if re.search(r"\bECC\b", text) and not re.search(r"\b(?:non?[- ]?|on[- ]die )ECC\b", text, re.I) else "S",
    }  # fmt: skip
    if m := _RANKS.search(text):
        fields |= {"ranks": int(m[1]), "chip_width": int(m[2])}
    if m := _CL.search(text):
        fields["cl"] = int(m[1])
    if generation > 3:
        fields["voltage_mv"] = {4: 1200, 5: 1100}[generation]
    elif re.search(r"\bDDR3L\b|\bPC3L\b|\b1[.,]35\s?V\b", text, re.I):
        fields["voltage_mv"] = 1350
    return Title(fields=fields)


def _grade(text: str, generation: int) -> int | None:
    """The one grade a title names, by rate or by bandwidth."""
    grades = ddr.GRADES.get(generation, ())
    named = {int(g) for m in _DDR.finditer(text) for g in (m[3], m[4]) if g} | {int(m[1]) for m in _RATE.finditer(text)}
    for m in _BANDWIDTH.finditer(text):
        figure = int(m[2])
        of = figure if figure in grades else ddr.grade_of_bandwidth(generation, figure)
        named |= {of} if of else set()
    real = {g for g in named if any(ddr.same_grade(g, known) for known in grades)}
    return real.pop() if len(real) == 1 and real == named else None


def _card(text: str) -> dict[str, Any]:
    found: dict[str, Any] = {}
    sizes = {m.group(1, 2) for m in _CARD.finditer(text)}
    if len(sizes) == 1:
        width, length = sizes.pop()
        found |= {"width_mm": int(width), "length_mm": int(length)}
    if m := _KEYS.search(text):
        keys = [k.upper() for k in m.groups() if k]
        found["keys"] = tuple(sorted(set(keys)))
    return found


def _modem(text: str) -> Title | None:
    if (
        not _MODEM.search(text)
        or not re.search(r"\bmodem\b|\bmodule?\b|\bcard\b|\bkarte\b|\bcarte\b|\bM\.2\b", text, re.I)
        or _WIFI.search(text)
    ):
        return None
    return Title(fields={"kind": "cellular", "generation": "5G" if re.search(r"\b5G\b", text) else "4G"} | _card(text))


def _radio(text: str) -> Title | None:
    found = {
        {"4": "n", "5": "ac", "6": "ax", "7": "be"}.get(m[1] or "", (m[2] or "").lower()) for m in _WIFI.finditer(text)
    }
    if not found:
        return None
    if re.search(r"\bUSB\b|\brouter\b|\baccess\s+point\b|\brepeater\b|\bPCIe?\s+card\s+for\s+desktop", text, re.I):
        return Title(left_out="no card for a laptop's radio slot")
    if len(found) > 1:
        return Title(asked="it names several radio standards")
    fields: dict[str, Any] = {"kind": "radio", "standard": found.pop()} | _card(text)
    if m := _STREAMS.search(text):
        fields["streams"] = int(m[1])
    if m := _BLUETOOTH.search(text):
        fields["bluetooth"] = m[1]
    return Title(fields=fields)


def _pack(text: str) -> Title | None:
    if not (_PACK.search(text) and _WH.search(text)):
        return (
            Title(asked="a battery: its energy in Wh is not said")
            if re.search(r"\bbatter(?:y|ie)\b|\bakku\b", text, re.I)
            else None
        )
    sizes = {m[1] for m in _WH.finditer(text)}
    if len(sizes) != 1:
        return Title(asked="it names several batteries")
    fields: dict[str, Any] = {"kind": "battery", "design_mwh": round(float(sizes.pop().replace(",", ".")) * 1000)}
    volts = {round(float(m[1].replace(",", ".")) * 1000) for m in _VOLT.finditer(text)}
    if len(volts) == 1 and pack.cells_of(next(iter(volts))) is not None:
        fields["voltage_mv"] = volts.pop()
    return Title(fields=fields)


def _drive(text: str) -> Title | None:
    sizes = {round(float(m[1].replace(",", ".")) * (1000 if m[2].upper() == "T" else 1)) for m in _SIZE.finditer(text)}
    nvme = bool(re.search(r"\bNVMe\b|\bPCI-?e\b|\bPCI\s?express\b", text, re.I))
    is_card = nvme or bool(re.search(r"\bM\.2\b|\bNGFF\b|\bmSATA\b", text, re.I))
    flat = bool(_FLAT.search(text))
    if not sizes or not (
        is_card or flat or re.search(r"\bSSD\b|\bSATA\b|\bHDD\b|\bdrive\b|\bfestplatte\b|\bdisque\b", text, re.I)
    ):
        return None
    if len(sizes) != 1:
        return Title(asked="it names several sizes")
    if is_card == flat:
        return Title(asked="a card (M.2, mSATA) or a 2.5-inch drive?")
    fields: dict[str, Any] = {"capacity_gb": sizes.pop()}
    if m := _READ.search(text):
        fields["read_mb_s"] = int(re.sub(r"[.,]", "", m[1]))
    if flat:
        if not (_SPINS.search(text) or re.search(r"\bSSD\b|\bsolid[- ]state\b", text, re.I)):
            return Title(asked="a spinning or a solid-state drive?")
        heights = {round(float(m[1].replace(",", ".")) * 1000) for m in _MM.finditer(text)}
        more = {"height_um": heights.pop()} if len(heights) == 1 else {}
        return Title(fields={"kind": "bay_drive", "spinning": spins(text)} | fields | more)
    fields["kind"] = "m2_drive"
    if re.search(r"\bmSATA\b", text, re.I):
        return Title(fields=fields | {"form": "mini", "interface": "sata"})
    fields |= _card(text)
    if nvme:
        fields["interface"] = "pcie"
        if m := _GEN.search(text):
            fields["generation"] = int(m[1] or m[3])
            if lanes := m[2] or m[4]:
                fields["lanes"] = int(lanes)
    elif re.search(r"\bSATA\b", text, re.I):
        fields["interface"] = "sata"
    return Title(fields=fields)
