"""The words of a drive, on its label or in a title.

Only a figure with its unit counts, and only where it speaks of the drive itself: a cache is no capacity, a rate in Gb/s no
size, the version of NVMe no generation of PCIe.
"""

import re
from functools import lru_cache
from typing import Any

from ..frozen import Frozen

_CACHE = re.compile(
    r"\b\d+(?:[.,]\d+)?\s*[MG]i?[BO]\s*(?:DDR\d\w*\s+|DRAM\s+|LPDDR\d\w*\s+)?(?:cache|buffer|puffer|DRAM)\b|"
    r"\b(?:cache|buffer|puffer|DRAM)\s*[:=]?\s*\d+(?:[.,]\d+)?\s*[MG]i?[BO]\b",
    re.I,
)
#: No size: a rate (6 Gb/s, 6Gbps), and what stands inside a number.
_SIZE = re.compile(r"(?<![\w.,-])(\d{1,7}(?:[.,]\d{1,2})?)\s?(T|G)(?:i?B|o)\b(?!\s?/\s?s|ps)", re.I)
_BITS = re.compile(r"\b(1[.,]5|3|6|12)\s?Gb(?:\s?/\s?s|ps|it\w*)?\b")
_CARD = re.compile(
    r"(?<![\d.,/-])(12|16|22|30)\s?(?:x\s?|mm\s?x\s?|×\s?)?(16|30|42|52|60|80|110)(?![\d.,]?\d)(?:\s?mm)?", re.I
)
_CODE = re.compile(r"(?<![\d.])(?:12|16|22|30)(?:16|30|42|52|60|80|110)-([SD]\d)\b", re.I)
_LENGTH = re.compile(r"(?<![\d.,x×])(30|42|60|80|110)\s?mm\b(?!\s?[x×])", re.I)
_KEYS = re.compile(
    r"\bkey[- ]?([ABEM])(?:\s?[+&]\s?([ABEM]))?\b|\b([ABE])(?:\s?[+&]\s?([ME]))?[- ]key\b|\b(M)[- ]key\b|-(B-M|M|B)\b(?=\s|$)",
    re.I,
)
_LINK = re.compile(
    r"\b(?:PCI-?E(?:xpress)?|PCI\s?express)\s*(?:NVMe\s*)?(?:Gen\.?\s*)?([1-5])(?:\.0)?(?![\d.,])\s*(?:[x×]\s*([124])\b)?|"
    r"\bGen\.?\s?([1-5])(?:\.0)?(?![\d.,])\s*(?:[x×]\s*([124])\b)?",
    re.I,
)
#: Lanes alone: joined to the interface's own word, and never a count ("1 × M.2").
_LANES = re.compile(
    r"\b(?:PCI-?E(?:xpress)?|NVMe)\s*[x×]\s?([124])\b|(?<![\w.])([1-5])(?:\.0)\s?[x×]\s?([124])\b(?!\s?(?:M\.2|GB|TB))",
    re.I,
)
_READ = re.compile(
    r"(?:\bread|\blesen|\blecture|\bR)\s?[:=]?\s?(?:up\s+to\s+|bis\s+zu\s+|max\.?\s+)?(\d{1,2}[.,]?\d{3}|\d{3})\b|"
    r"(?<![\d.,/])(\d{1,2}[.,]?\d{3}|\d{3})\s?/\s?(?:\d{1,2}[.,]?\d{3}|\d{3})\s?MB/?s?\b|"
    r"(?<![\d.,/])(\d{1,2}[.,]?\d{3}|\d{3})\s?MB/s",
    re.I,
)
_SATA = re.compile(r"\b(?:m)?SATA(?:[- ]?(III|II|I|[123](?:\.0)?)(?![\w.]))?(?![A-Za-z])", re.I)
_SATA_NAMES = {"I": 1, "II": 2, "III": 3, "1": 1, "2": 2, "3": 3}
_SATA_RATE = {"6": 3, "3": 2, "1.5": 1}
_FLAT = re.compile(r"(?<![\d.,])2[.,]5\s*-?\s*(?:inch(?:es)?|in\b|\"|''|zoll|pouces|pulgadas|pollici)", re.I)
_MM = re.compile(r"(?<![\d.,x×])(5|7|9[.,]5|12[.,]5|15)\s?mm\b", re.I)
_SPINS = re.compile(
    r"\bHDD\b|\b(?:5400|7200)\s?(?:rpm|U/min|tr/min)\b|\bhard\s+(?:disk|drive)\b|\bfestplatte\b|\bdisque\s+dur\b|\bdisco\s+duro\b",
    re.I,
)
_SOLID = re.compile(r"\bSSD\b|\bsolid[- ]state\b", re.I)
_TBW = re.compile(r"(?<![\d.,])(\d{2,5})\s?TBW\b", re.I)
_ONE_SIDE = re.compile(r"\bsingle[- ]sided\b|\bone[- ]sided\b|\beinseitig\w*|\bsimple\s+face\b", re.I)
_NVME = re.compile(r"\bNVMe\b|\bPCI-?e(?:xpress)?\b|\bPCI\s?express\b", re.I)
_M2 = re.compile(r"\bM\.?2\b|\bNGFF\b", re.I)
_IDE = re.compile(r"\b(?:P?ATA|IDE)\b", re.I)
_SERVER = re.compile(r"\bU\.[23]\b|\bSAS\b|\bE[13]\.[SL]\b|\benterprise\s+NVMe\b", re.I)


class DriveWords(Frozen):
    """What is said of a drive: every size, interface and link it names; None and () where nothing is said."""

    sizes_gb: tuple[int, ...] = ()
    pcie: bool = False
    sata: bool = False
    generation: int | None = None
    lanes: int | None = None
    sata_generation: int | None = None
    read_mb_s: int | None = None
    width_mm: int | None = None
    length_mm: int | None = None
    heights: str = ""
    keys: tuple[str, ...] = ()
    one_sided: bool = False
    m2: bool = False
    msata: bool = False
    flat: bool = False
    height_um: int | None = None
    spinning: bool = False
    solid: bool = False
    tbw: int | None = None
    ide: bool = False
    server: bool = False

    @property
    def is_card(self) -> bool:
        return self.m2 or self.msata or self.length_mm is not None or (self.pcie and not self.flat)

    @property
    def card(self) -> dict[str, Any]:
        """Of an M.2 card: its size, keys and what lies under it."""
        found: dict[str, Any] = {"width_mm": self.width_mm, "length_mm": self.length_mm, "keys": self.keys or None}
        found["below_um"] = 0 if self.one_sided else None
        return {k: v for k, v in found.items() if v is not None}

    @property
    def link(self) -> dict[str, Any]:
        """Interface, generation and lanes, where one interface is said."""
        if self.pcie == self.sata:
            return {}
        if self.sata:
            return {"interface": "sata"} | ({"generation": self.sata_generation} if self.sata_generation else {})
        found = {"interface": "pcie", "generation": self.generation, "lanes": self.lanes}
        return {k: v for k, v in found.items() if v is not None}


def spins(text: str) -> bool:
    """Do the words speak of a spinning drive?"""
    return bool(_SPINS.search(text))


@lru_cache(maxsize=256)  # several readers of one title ask for them
def drive_words(text: str) -> DriveWords:
    """Everything a text says of a drive."""
    text = " ".join(text.split())
    plain = _CACHE.sub(" ", text)
    sizes = [_gb(m[1], m[2]) for m in _SIZE.finditer(_BITS.sub(" ", plain))]
    found: dict[str, Any] = {"sizes_gb": tuple(dict.fromkeys(sizes))}
    found["pcie"], found["m2"] = bool(_NVME.search(text)), bool(_M2.search(text))
    sata = list(_SATA.finditer(text))
    found["sata"], found["msata"] = bool(sata), any(m[0].lower().startswith("m") for m in sata)
    generations = {_SATA_NAMES[m[1].upper()[:3].rstrip(".0")] for m in sata if m[1]}
    generations |= {
        _SATA_RATE[rate] for m in _BITS.finditer(text) if sata and (rate := m[1].replace(",", ".")) in _SATA_RATE
    }
    found["sata_generation"] = generations.pop() if len(generations) == 1 else None
    links = {(m[1] or m[3], m[2] or m[4]) for m in _LINK.finditer(text)}
    lanes = {n for _, n in links if n} | {m[1] or m[3] for m in _LANES.finditer(text)}
    pcie = {g for g, _ in links} | {m[2] for m in _LANES.finditer(text) if m[2]}
    if found["pcie"]:
        found["generation"] = int(pcie.pop()) if len(pcie) == 1 else None
        found["lanes"] = int(lanes.pop()) if len(lanes) == 1 else None
    reads = [next(g for g in m.groups() if g) for m in _READ.finditer(text)]
    found["read_mb_s"] = int(re.sub(r"[.,]", "", reads[0])) if reads else None
    found |= _size_of_card(text, found["m2"])
    keys = [k.upper() for m in _KEYS.finditer(text) for g in m.groups() if g for k in g.split("-")]
    found["keys"] = tuple(sorted(set(keys)))
    heights = {round(float(m[1].replace(",", ".")) * 1000) for m in _MM.finditer(text)}
    found["height_um"] = heights.pop() if len(heights) == 1 else None
    tbw = {int(m[1]) for m in _TBW.finditer(text)}
    found["tbw"] = tbw.pop() if len(tbw) == 1 else None
    return DriveWords(
        **found, flat=bool(_FLAT.search(text)), spinning=spins(text), solid=bool(_SOLID.search(text)), one_sided=bool(_ONE_SIDE.search(text)),
        ide=bool(_IDE.search(text)) and not sata, server=bool(_SERVER.search(text)),
    )  # fmt: skip


def _gb(figure: str, unit: str) -> int:
    return round(float(figure.replace(",", ".")) * (1000 if unit.upper() == "T" else 1))


def _size_of_card(text: str, m2: bool) -> dict[str, Any]:
    sizes = {(int(m[1]), int(m[2])) for m in _CARD.finditer(text)}
    if len(sizes) == 1:
        width, length = sizes.pop()
        code = _CODE.search(text)
        return {"width_mm": width, "length_mm": length, "heights": code[1].upper() if code else ""}
    lengths = {int(m[1]) for m in _LENGTH.finditer(text)}
    return {"length_mm": lengths.pop()} if m2 and not sizes and len(lengths) == 1 else {}
