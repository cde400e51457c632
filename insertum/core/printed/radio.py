"""The words of a radio, wherever they stand: on a card's label, in a title, on a maker's page."""

import re
from typing import Any

from .drive import drive_words

#: The last of a list counts: "802.11 a/b/g/n/ac" is ac.
_WIFI = re.compile(r"\bWi-?Fi\s*([4567])E?\b|\b802\.11\s?(?:(?:ac|ax|a|b|g|n)\s?/\s?)*(n|ac|ax|be)\b(?!\s?/)", re.I)
#: "2x2"; of a kit's count ("2x2 GB") and a charger's figures it is none.
_STREAMS = re.compile(r"(?<![\d.])([1-4])\s?[x×]\s?\1(?![\d.])(?!\s*(?:\d|GB|Go|W\b))")
_BLUETOOTH = re.compile(r"\b(?:Bluetooth|BT)\s?(\d(?:\.\d)?)\b", re.I)
_CNVI = re.compile(r"\bCNVio?2?\b", re.I)
_PCIE = re.compile(r"\bPCI-?e(?:xpress)?\b", re.I)
_MINI = re.compile(
    r"\bmini[- ]?(?:PCI-?e(?:xpress)?|card)\b|\b(?:half|full)[- ](?:size\s+)?mini\b|\bHMC\b|\bMPCIe\b", re.I
)
_HALF, _FULL = (
    re.compile(r"\bhalf\b|\bHMC\b|\bhalb\w*|\bdemi\b", re.I),
    re.compile(r"\bfull\b|\bvoll\w*|\bentière\b", re.I),
)
#: Something that plugs in outside, or into a desktop.
_OUTSIDE = re.compile(
    r"\bUSB[- ]?(?:stick|dongle|adapter|adaptor|wifi|wlan)\b|\b(?:stick|dongle)\b|\brouter\b|\baccess\s+point\b|\brepeater\b|"
    r"\bPCI-?e?\s?[x×]1\b|\bdesktop\b|\b(?:low|full)[- ](?:profile|height)\b",
    re.I,
)
_SOLDERED = re.compile(r"\bsolder\w*|\b1216\b|\bauflöt\w*|\bLGA\b", re.I)


def standards_in(text: str) -> set[str]:
    """The radio standards a text names: n, ac, ax, be."""
    return {
        {"4": "n", "5": "ac", "6": "ax", "7": "be"}.get(m[1] or "", (m[2] or "").lower()) for m in _WIFI.finditer(text)
    }


def names_of_standards(text: str) -> set[str]:
    """The ways it names them: "Wi-Fi 6" and "Wi-Fi 6E" are two, though of one standard."""
    return {m[0].lower().replace(" ", "") for m in _WIFI.finditer(text)}


def streams_in(text: str) -> set[int]:
    """Numbers of streams a text names, as 2x2."""
    return {int(m[1]) for m in _STREAMS.finditer(text)}


def outside(text: str) -> bool:
    """Is it something that goes into no radio slot of a laptop?"""
    return bool(_OUTSIDE.search(text))


def soldered(text: str) -> bool:
    """Does the text say that the card is soldered?"""
    return bool(_SOLDERED.search(text))


def radio_fields(text: str) -> dict[str, Any]:
    """What is said of the card, as a part's fields; what is not said is not among them."""
    found: dict[str, Any] = drive_words(text).card
    found.pop("below_um", None)
    if _MINI.search(text):
        found = {"form": "mini"}
        half, full = bool(_HALF.search(text)), bool(_FULL.search(text))
        if half != full:
            found["mini_size"] = "half" if half else "full"
    if _CNVI.search(text):
        found["bus"] = "cnvi"
    elif _PCIE.search(_MINI.sub(" ", text)):
        found["bus"] = "pcie"
    if len(streams := streams_in(text)) == 1:
        found["streams"] = streams.pop()
    if m := _BLUETOOTH.search(text):
        found["bluetooth"] = m[1]
    standards = standards_in(text)
    return found | ({"standard": standards.pop()} if len(standards) == 1 else {})
