"""What a page says of one card socket: sizes, key, PCIe, SATA."""

import re
from collections.abc import Iterator
from typing import Any, NamedTuple

from .terms import NO, NUMBER, number


class Said(NamedTuple):
    """An attribute, its value, where in the text, whether it is wiring, and whether a list may go on."""

    name: str
    value: Any
    at: int
    wiring: bool = False
    among_others: bool = False


_SIZE = re.compile(
    r"(?<![\d.,A-Za-z-])(12|16|22|30)(16|30|42|52|60|80|110)(?![\d.,]?\d|[A-Za-z%]|\s*(?:mAh|MB|rpm|MT|MHz|GB|Go))"
)
_SIZE_CODE = re.compile(r"(?<![\d.,])(12|16|22|30)(16|30|42|52|60|80|110)-[SD]\d-([ABEM])(?:-([ABEM]))?")
_OPEN_LIST = re.compile(
    r"\bother\s+(?:lengths?|sizes?)|\band\s+others?\b|\betc\b|\band\s+more\b|\bu\.\s?a\.|\busw\b|\bandere\s+(?:längen|größen)|\bweitere\b|\bautres?\s+(?:longueurs?|tailles?)|\be\.g\b|\bfor\s+example|\bsuch\s+as\b|\bz\.\s?B\b|\bpar\s+exemple|…|\.\.\.",
    re.I,
)
#: What stands between the sizes of one list.
_LISTED = re.compile(
    r"[\s/,|&+()-]*(?:\b(?:or|and|oder|und|ou|et|sowie|as well as)\b)?[\s/,(]*(?:M\.2\s*|type\s*)?$", re.I
)
_EXCEPT = re.compile(
    r"\b(?:no|not|except|but\s+not|kein\w*|nicht|außer|sauf|pas)\s+(?:for\s+|de\s+|für\s+)?(?:M\.2\s+)?(?:12|16|22|30)(?:16|30|42|52|60|80|110)\b",
    re.I,
)
_KEY = re.compile(
    r"\bkey(?:ed)?[- ]?\(?([ABEM])\b(?!\s*[+&/])|\b([ABEM])[- ]key(?:ed)?\b|\bclé\s+([ABEM])\b(?!\s*[+&/])|\bschlüssel\s+([ABEM])\b(?!\s*[+&/])|\bcodierung\s+([ABEM])\b(?!\s*[+&/])",
    re.I,
)
_PCIE = r"PCI(?:e|\s*Express)\s*(?:\(?NVMe\)?\s*)?(?:(?:Gen(?:eration)?\.?\s*([1-5])(?:\.0)?(?![\d.])|v?([1-5])\.0|([1-5])(?![\d.x×]))\s*)?"
_LINK = re.compile(rf"{_PCIE}\(?,?\s*(?:x\s?([124])\b)?", re.I)
_GEN_AFTER = re.compile(r"\bGen(?:eration)?\.?\s*([1-5])(?:\.0)?\s*x\s?([124])\s+(?:NVMe|PCIe)", re.I)
_LANES = re.compile(
    rf"\b({NUMBER})\s+(?:PCIe[- ](?:Gen\s*)?(?:[1-5](?:\.0)?[- ])?)?(?:lanes?|leitungen|lignes|voies)\b(?:\s+(?:of|von|de)\s+(?:PCIe|PCI\s+Express)\s*(?:Gen\s*)?(?:([1-5])(?:\.0)?)?)?",
    re.I,
)
_SATA_RATE = re.compile(r"\bSATA\b[^,;.]{0,14}?\b(6(?:\.0)?|3(?:\.0)?|1[.,]5)\s*Gb(?:it|ps)?(?:/s)?\b", re.I)
_SATA_ROMAN = re.compile(r"\bSATA[- ]?(III|II|I)\b|\bSATA\s+(?:Rev(?:ision)?\.?\s*)([123])(?:\.0)?\b")
_NO_SATA = re.compile(
    rf"\b{NO}\s+SATA\b|\bSATA\s+(?:is\s+|drives\s+|cards\s+)?(?:not|nicht|non)\b|\b(?:NVMe|PCIe)[- ](?:drives\s+|cards\s+)?only\b|\b(?:only|nur|uniquement|seulement)\s+(?:en\s+|as\s+|als\s+)?(?:NVMe|PCIe)\b|\b(?:NVMe|PCIe)\s+(?:uniquement|seulement)\b",
    re.I,
)
_NO_PCIE = re.compile(
    rf"\b{NO}\s+(?:PCIe|NVMe)\b|\b(?:PCIe|NVMe)\s+(?:is\s+|drives\s+)?(?:not|nicht|non)\b|\bSATA[- ](?:drives\s+|cards\s+)?only\b|\b(?:only|nur|uniquement|seulement)\s+(?:en\s+|as\s+|als\s+)?SATA\b|\bSATA\s+(?:uniquement|seulement)\b",
    re.I,
)
_SATA_GENERATION = {"6": 3, "6.0": 3, "3": 2, "3.0": 2, "1.5": 1, "1,5": 1, "III": 3, "II": 2, "I": 1}


def size_and_key(text: str, start: int = 0) -> Iterator[Said]:
    """Width, lengths with a hold-down, and the key. A list the text leaves open says its width alone."""
    found = [] if _EXCEPT.search(text) else list(_SIZE.finditer(text))
    widths = {int(m[1]) for m in found}
    between = [text[a.end() : b.start()] for a, b in zip(found, found[1:], strict=False)]
    if any(not _LISTED.match(b) for b in between):
        yield Said("?standoffs_mm", None, start)  # two places, or one: nobody can tell
    elif len(widths) == 1:
        yield Said("width_mm", widths.pop(), start + found[0].start())
        lengths = sorted({int(m[2]) for m in found})
        if _OPEN_LIST.search(text):
            yield Said("?standoffs_mm", lengths, start + found[0].start())
        else:
            yield Said("standoffs_mm", lengths, start + found[0].start())
    elif len(widths) > 1:
        yield Said("?width_mm", None, start)
    keys = {next(g for g in m.groups() if g).upper(): m.start() for m in _KEY.finditer(text)}
    if len(keys) == 1:
        key, at = next(iter(keys.items()))
        yield Said("key", key, start + at)


def wiring(text: str, start: int = 0) -> Iterator[Said]:
    """PCIe generation and lanes, and the SATA generation, as far as each is said. "NVMe" names neither figure."""
    if m := _NO_PCIE.search(text):
        yield Said("pcie_lanes", 0, start + m.start(), True)
    else:
        for m in _LINK.finditer(text):
            if re.search(rf"{NO}\s+$", text[: m.start()], re.I):
                continue
            if generation := next((g for g in m.groups()[:3] if g), None):
                yield Said("pcie_generation", int(generation), start + m.start(), True)
            if m[4]:
                yield Said("pcie_lanes", int(m[4]), start + m.start(), True)
        for m in _GEN_AFTER.finditer(text):
            yield Said("pcie_generation", int(m[1]), start + m.start(), True)
            yield Said("pcie_lanes", int(m[2]), start + m.start(), True)
        for m in _LANES.finditer(text):
            if number(m[1]) in (1, 2, 4):
                yield Said("pcie_lanes", number(m[1]), start + m.start(), True)
    if m := _NO_SATA.search(text):
        yield Said("sata", 0, start + m.start(), True)
        return
    for m in _SATA_RATE.finditer(text):
        yield Said("sata", _SATA_GENERATION[m[1]], start + m.start(), True)
    for m in _SATA_ROMAN.finditer(text):
        yield Said("sata", _SATA_GENERATION.get(m[1] or "", 0) or int(m[2]), start + m.start(), True)
