"""A part from a supplier's title: what its words prove of it, or why it is none that a laptop takes.

Titles are advertisements: only figures with their unit and words that mean one thing count. What a title leaves open
stays unknown; a title that leaves open what kind of part it is, is asked about.
"""

import re
from typing import Any

from .errors import InputError
from .frozen import Frozen
from .printed.drive import drive_words
from .printed.radio import outside, radio_fields, soldered, standards_in
from .standards import ddr, pack
from .standards.module_label import has_code, read_label
from .survey.label_fields import module_fields


class Title(Frozen):
    """``fields`` are a part's, as the parts format holds them; ``pieces`` of it are sold together. Where ``left_out`` says
    why it is no part for a laptop, or ``asked`` what has to be known first, they are what is known so far."""

    number: str = ""
    fields: dict[str, Any] = {}
    pieces: int = 1
    asked: str = ""
    left_out: str = ""
    #: Could fields of a part answer what is asked?
    answerable: bool = True


_SERVICE = re.compile(r"\b(?:freight|carriage|shipping|postage|handling|packing|versand\w*|porto|fracht\w*|frais\s+de\s+port|livraison|deposit|pfand|gift\s+card|gutschein|voucher|discount|rabatt|insurance|per\s+hour|labou?r|recovery|service\s+fee|warranty\s+extension)\b", re.I)  # fmt: skip
_ELSEWHERE = (
    (re.compile(r"\b3[.,]5\s*-?\s*(?:inch|in\b|\"|zoll|pouces)", re.I), "a 3.5-inch drive: no laptop takes it"),
    (
        re.compile(r"\bexternal\b|\bextern\w*|\bportable\s+SSD\b|\bUSB[- ](?:drive|stick|SSD)\b", re.I),
        "something outside the machine",
    ),
    (re.compile(r"\b(?:micro)?SD(?:HC|XC)?\s+card\b|\bflash\s+card\b", re.I), "a memory card"),
)
#: Not new, in a title or in a column of conditions.
_NOT_NEW = re.compile(
    r"\b(?:refurb\w*|renewed|recondition\w*|reconditionn\w*|pulled|pulls?|used|second[- ]hand|2nd[- ]hand|occasion|usagée?|gebraucht\w*|gebr\.|"
    r"generalüberholt\w*|aufbereitet\w*|b-ware|rückläufer|segunda\s+mano|usad[oa]|reacondicionad[oa]|usat[oa]|ricondizionat[oa]|open\s+box|defective|defekt|"
    r"good\s+condition|untested|as\s+is)(?!\w)",
    re.I,
)
#: Two things offered, and one to be chosen.
_EITHER = re.compile(
    r"\bor\b|\boder\b|\bou\b|\bo\b|\bplease\s+(?:say|state|choose)\b|\bbitte\s+angeben\b|\bau\s+choix\b", re.I
)
#: Goods named for the part they go with ("Heatsink for M.2 2280 NVMe"): the figures after "for" are the other part's.
_GOES_WITH = re.compile(
    r"\b(?:heat\s?sinks?|cooler|screws?|cable|kühlkörper|schrauben?|kabel|dissipateur|vis|câble)\s+(?:for|für|pour)\b",
    re.I,
)
_DESKTOP = re.compile(
    r"\b(?:U|R|LR)-?DIMM\b|(?<!SO-)(?<!SO)(?<!SO )\bDIMM\b|\b288-?\s?pin\b|\b240-?\s?pin\b|\bdesktop\b|\bserver\s+memory\b|\bregistered\b",
    re.I,
)
_SODIMM = re.compile(
    r"\bC?SO[- ]?DIMMs?\b|\b(?:204|260|262)-?\s?pins?\b|\blaptop\s+memory\b|\bnotebook\s+(?:memory|speicher)\b", re.I
)
_TIMES = re.compile(
    r"(?<![\w.])([2-8])\s?[x×]\s?(\d{1,3})\s?G(?:B|o)\b|(?<![\w.])(\d{1,3})\s?G(?:B|o)\s?[x×]\s?([2-8])\b(?!\s?G)", re.I
)
_KIT = re.compile(
    r"\bkit\s+of\s+([2-8])\b|\bset\s+of\s+([2-8])\b|\b([2-8])er[- ]kit\b|\bkit\s+de\s+([2-8])\b|\b([2-8])[- ]pack\b",
    re.I,
)
_SOME_KIT = re.compile(r"\bkit\b|\bset\s+of\b", re.I)
_DDR = re.compile(r"\bDDR([2345])(L)?(?:[- ]?(\d{3,5})(?:\s?/\s?(\d{3,5}))?)?\b", re.I)
_RATE = re.compile(r"(?<!\d)(\d{3,5})\s?(?:MHz|MT/s)\b", re.I)
_BANDWIDTH = re.compile(r"\bPC([2345])L?-?(\d{4,6})\b", re.I)
_GB = re.compile(r"(?<![\w.,×])(\d{1,4})\s?G(?:B|o)\b(?!\s?/?\s?s\b|ps)", re.I)
_RANKS = re.compile(r"\b([1248])Rx(4|8|16)\b", re.I)
_CL = re.compile(r"\bCL\s?(\d{2})\b", re.I)
_MODEM = re.compile(r"\b(?:LTE|WWAN|[45]G)\b(?!\s?Hz)", re.I)
_PACK = re.compile(r"\bbatter(?:y|ie)\b|\bakku\b|\bpack\b", re.I)
_WH = re.compile(r"(?<![\d.,])(\d{2,3}(?:[.,]\d{1,2})?)\s?Wh\b", re.I)
_VOLT = re.compile(r"(?<![\d.,])(\d{1,2}[.,]\d{1,2})\s?V\b")
#: What a laptop part's accessory is called. Its sizes count where the title says both ends.
_ACCESSORY: tuple[tuple[str, re.Pattern[str]], ...] = (
    (
        "adapter_leads",
        re.compile(
            r"\b(?:antenna|aerial|antennen)\w*\b.*\b(?:leads?|cables?|kabel|adapters?|pigtails?)\b|\bMHF[14]\s*(?:to|auf|-|→)\s*MHF[14]\b",
            re.I,
        ),
    ),
    ("enclosure", re.compile(r"\benclosure\b|\bgehäuse\b|\bboîtier\b", re.I)),
    ("caddy", re.compile(r"\bcaddy\b|\beinbaurahmen\b|\btiroir\b", re.I)),
    ("ribbon", re.compile(r"\bribbon\b|\bflachbandkabel\b|\bnappe\b", re.I)),
    ("spacer", re.compile(r"\bspacer\b|\babstands\w+|\bentretoise\b", re.I)),
    ("pad", re.compile(r"\bthermal\s+pads?\b|\bwärmeleitpads?\b|\bpad\s+thermique\b", re.I)),
    ("screws", re.compile(r"\bscrews?\b|\bschrauben?\b|\bvis\b|\bstandoff\b", re.I)),
    ("bracket", re.compile(r"\bbracket\b|\bhalterung\b|\bM\.2\b.*\bextender\b", re.I)),
    ("", re.compile(r"\badapters?\b|\badaptateur\b", re.I)),
)
#: "for Strand 15": whose it is.
_FOR_ONE = re.compile(
    r"\b(?:for|fits|für|passend\s+für|pour)\s+(?:the\s+|das\s+|le\s+)?(?!M\.2\b|SSD\b|NVMe\b|SATA\b|PCIe\b|MHF\d)[A-ZÄÖÜ][\w-]*\s+\d",
    re.U,
)
_TO = r"\s*(?:to|auf|zu|vers|à|-|–|→)\s*"
_FROM_CARD = re.compile(rf"\b(?:22|30)(30|42|60|80|110){_TO}(?:22|30)?(30|42|60|80|110)\b", re.I)
_FROM_MM = re.compile(rf"(?<![\d.,])(\d{{1,3}}(?:[.,]\d)?)\s?(?:mm)?{_TO}(\d{{1,3}}(?:[.,]\d)?)\s?mm\b", re.I)
_PLUGS = re.compile(rf"\b(MHF[14])\b.*?{_TO}(MHF[14])\b", re.I)
_THICK = re.compile(r"(?<![\d.,x×])(\d(?:[.,]\d{1,2})?)\s?mm\b", re.I)
#: Words in capitals with digits that are standards' and nobody's numbers.
_STANDARD = re.compile(r"(?:DDR\d|PC\d|LPDDR|USB|PCIE|NVME|SATA|WI-?FI|802|M\.2|SO-?DIMM|\d+GB|\d+TB|\d+RX\d|CL\d|GEN\d|\d+MM|\d+WH|\d+V|\d+MHZ|(?:22|30|12|16)\d\d-|\d+-?PINS?\b|\d+RPM\b|\d+[X×]\d|\d+MAH\b|\d+-?CELLS?\b|\d+(?:MB|GB|KB)/?P?S\b)", re.I)  # fmt: skip
_NUMBER = re.compile(r"(?<![\w./-])(?=[\w./-]*\d)(?=[\w./-]*[A-Za-z])[A-Za-z0-9][A-Za-z0-9./-]{3,29}(?![\w/-])")


def read_title(title: str, number: str = "") -> Title:
    """What a title says of a part. ``number`` is the supplier's or maker's number, where the list has it apart."""
    text = " ".join(title.split())[:400]
    number = number or _number_in(text)
    if _SERVICE.search(text):
        return Title(number=number, left_out="no part: freight or a service")
    for words, why in _ELSEWHERE:
        if words.search(text):
            return Title(number=number, left_out=why)
    if not_new(text):
        return Title(number=number, asked="not new, by its own words: is it to be sold as such?", answerable=False)
    for read in (_accessory, _goes_with, _module, _modem, _radio, _pack, _drive):
        found = read(text)
        if found is not None:
            if found.fields and not found.asked and not number:
                return found.model_copy(update={"asked": "no part number in it"})
            return found.model_copy(update={"number": number})
    return Title(number=number, asked="the title does not say what kind of part it is")


def sold_together(text: str) -> tuple[int, str]:
    """(how many modules a title sells together, what has to be asked where it does not add up)."""
    if not (_TIMES.search(text) or _KIT.search(text) or _SOME_KIT.search(text)):
        return 1, ""
    _, pieces, why = _size_of_one(text)
    return pieces, why


def not_new(text: str) -> bool:
    """Do the words say that the goods were used, pulled, or made good again?"""
    return bool(_NOT_NEW.search(text))


def _accessory(text: str) -> Title | None:
    supplies = next((s for s, words in _ACCESSORY if words.search(text)), None)
    if supplies is None:
        return None
    if not supplies:
        return Title(asked="an adapter: for what, and between which sizes?")
    fields: dict[str, Any] = {"kind": "accessory", "supplies": supplies}
    if supplies == "bracket" and (m := _FROM_CARD.search(text)):
        fields |= {"from_mm": float(m[1]), "to_mm": float(m[2])}
    if supplies == "spacer" and (m := _FROM_MM.search(text)):
        fields |= {"from_mm": float(m[1].replace(",", ".")), "to_mm": float(m[2].replace(",", "."))}
    if supplies == "adapter_leads" and (m := _PLUGS.search(text)):
        fields |= {"from_plug": m[1].upper(), "to_plug": m[2].upper()}
    if supplies == "pad" and len(thick := {m[1] for m in _THICK.finditer(text)}) == 1:
        fields["thickness_um"] = round(float(thick.pop().replace(",", ".")) * 1000)
    if supplies == "enclosure":
        drive = drive_words(text)
        if drive.pcie != drive.sata:
            fields["takes"] = "pcie" if drive.pcie else "sata"
    if supplies in ("caddy", "ribbon") or _FOR_ONE.search(text):
        # Without its machines it would suit any: that is not what the title says.
        made = "made for one machine: enter it under Parts, with the machines it suits"
        return Title(fields=fields, asked=made, answerable=False)
    needed = {"bracket": "to_mm", "spacer": "to_mm", "adapter_leads": "to_plug", "pad": "thickness_um"}.get(supplies)
    if needed and needed not in fields:
        return Title(fields=fields, asked="an accessory: its sizes have to be typed")
    return Title(fields=fields)


def _goes_with(text: str) -> Title | None:
    return Title(asked="it is named for another part: what is offered is not told") if _GOES_WITH.search(text) else None


def _number_in(text: str) -> str:
    """The one word that looks like a part number: letters and digits, and no standard's code."""
    found = [m[0].strip("./-") for m in _NUMBER.finditer(text)]
    found = [w for w in found if not _STANDARD.match(w) and ("-" in w or len(w) >= 6)]
    return found[0] if len(set(found)) == 1 else ""


def _module(text: str) -> Title | None:
    kind = _DDR.search(text) or _BANDWIDTH.search(text)
    if re.search(r"\bGDDR|\bLPDDR", text, re.I) and not drive_words(text).is_card:
        return Title(left_out="graphics or soldered memory: nothing for a socket")
    if kind is None and not _SODIMM.search(text) and not has_code(text):
        return None
    if drive_words(text).is_card and not _SODIMM.search(text):
        return None  # a drive with memory of its own
    if _DESKTOP.search(text) and not _SODIMM.search(text):
        return Title(left_out="a desktop's or server's module")
    size, pieces, why = _size_of_one(text)
    fields: dict[str, Any] = {"kind": "memory"}
    if has_code(text):
        try:
            fields |= module_fields(read_label(text))
            if fields["generation"] == 3 and fields.get("voltage_mv") == 1500:
                del fields["voltage_mv"]  # sellers leave the L of PC3L out
        except InputError:
            return Title(asked="its label cannot be what it says: read it again", fields=fields)
    elif not _SODIMM.search(text):
        return Title(asked="a laptop's module (SO-DIMM), or a desktop's?", fields=fields)
    ddr_ = _DDR.search(text)
    generation = fields.get("generation") or (int(ddr_[1]) if ddr_ else int(kind[1]) if kind else 0)
    grade = fields.get("grade_mts") or _grade(text, generation)
    if why or not size or not generation or not grade:
        missing = [w for w, ok in (("size", size), ("generation", generation), ("grade", grade)) if not ok]
        return Title(asked=why or f"the module's {' and '.join(missing)} cannot be told from it", fields=fields)
    ecc = re.search(r"\bECC\b", text) and not re.search(r"\b(?:non?[- ]?|on[- ]die )ECC\b", text, re.I)
    fields |= {"generation": generation, "capacity_gb": size, "grade_mts": grade}
    fields.setdefault("module_type", "T" if ecc else "S")
    if m := _RANKS.search(text):
        fields |= {"ranks": int(m[1]), "chip_width": int(m[2])}
    if m := _CL.search(text):
        fields["cl"] = int(m[1])
    if generation > 3:
        fields["voltage_mv"] = {4: 1200, 5: 1100}[generation]
    elif re.search(r"\bDDR3L\b|\bPC3L\b|\b1[.,]35\s?V\b", text, re.I):
        fields["voltage_mv"] = 1350
    if generation == 5 and _SODIMM.search(text):  # a title that says SO-DIMM says that it is none with a clock driver
        fields["clock_driver"] = bool(re.search(r"\bCSO[- ]?DIMM|\bclock\s+driver\b|\bCKD\b", text, re.I))
    return Title(fields=fields, pieces=pieces)


def _size_of_one(text: str) -> tuple[int | None, int, str]:
    """(GB of one module, modules, what has to be asked): a kit is modules of the single size."""
    sizes = {int(m[1]) for m in _GB.finditer(_TIMES.sub(" ", text))}
    times = {(int(m[1] or m[4]), int(m[2] or m[3])) for m in _TIMES.finditer(text)}
    of = {int(next(g for g in m.groups() if g)) for m in _KIT.finditer(text)}
    if len(times) > 1 or len(of) > 1 or len(sizes) > 1:
        return None, 1, "it names several sizes of module: which size is one?"
    if times:
        count, one = times.pop()
        if (of and of != {count}) or (sizes and sizes not in ({count * one}, {one})):
            return None, 1, "a kit whose sizes do not add up: how many modules, of what size?"
        return one, count, ""
    whole = sizes.pop() if sizes else None
    if of:
        count = of.pop()
        if whole is None or whole % count:
            return None, 1, "a kit: of which size is one of its modules?"
        return whole // count, count, ""
    if _SOME_KIT.search(text):
        return None, 1, "a kit: of how many modules?"
    return whole, 1, ""


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


def _modem(text: str) -> Title | None:
    if (
        not _MODEM.search(text)
        or not re.search(r"\bmodem\b|\bmodule?\b|\bcard\b|\bkarte\b|\bcarte\b|\bM\.2\b", text, re.I)
        or standards_in(text)
    ):
        return None
    return Title(
        fields={"kind": "cellular", "generation": "5G" if re.search(r"\b5G\b", text) else "4G"} | drive_words(text).card
    )


def _radio(text: str) -> Title | None:
    found = standards_in(text)
    if not found:
        return None
    if soldered(text):
        return Title(left_out="a Wi-Fi module that is soldered to a board")
    if outside(text):
        return Title(left_out="no card for a laptop's Wi-Fi slot")
    fields: dict[str, Any] = {"kind": "radio"} | radio_fields(text)
    return Title(fields=fields) if len(found) == 1 else Title(asked="it names several Wi-Fi standards", fields=fields)


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
    said = drive_words(text)
    sata = said.sata and not re.search(r"\bSATA\s+(?:adapter|cable|kabel)", text, re.I)
    named = (
        said.is_card
        or said.flat
        or said.solid
        or said.spinning
        or sata
        or said.ide
        or re.search(r"\bdrive\b|\bdisque\b", text, re.I)
    )
    if not said.sizes_gb or not named:
        return None
    if said.server:
        return Title(left_out="a server's drive")
    if said.ide:
        return Title(left_out="an IDE drive: no laptop planned for takes it")
    if len(said.sizes_gb) != 1:
        return Title(asked="it names several sizes")
    if said.pcie and said.sata:
        return Title(asked="it names two interfaces, NVMe and SATA: which is it?")
    fields: dict[str, Any] = {"capacity_gb": said.sizes_gb[0]}
    fields |= {k: v for k, v in (("read_mb_s", said.read_mb_s), ("tbw", said.tbw)) if v}
    if said.is_card == said.flat:
        return Title(asked="a card (M.2, mSATA) or a 2.5-inch drive?", fields=fields)
    if said.flat:
        fields |= {"kind": "bay_drive"} | ({"generation": said.sata_generation} if said.sata_generation else {})
        if said.height_um:
            fields["height_um"] = said.height_um
        if not (said.spinning or said.solid):
            return Title(asked="a spinning or a solid-state drive?", fields=fields)
        return Title(fields=fields | {"spinning": said.spinning})
    fields["kind"] = "m2_drive"
    if said.msata:
        return Title(fields=fields | {"form": "mini", "interface": "sata"})
    return Title(fields=fields | said.card | said.link)
