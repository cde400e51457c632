"""Words of a question: those that say nothing, those that name a kind of part, and which speak of a part."""

import re
from functools import lru_cache

from ..machine.drive_parts import BayDrive, M2Drive
from ..machine.part import AnyPart, MemoryModule
from ..machine.part_base import CardBase
from ..machine.radio_parts import Radio
from ..spelling import folded

#: Words that ask and name nothing.
FILLERS = frozenset(
    [
        "a",
        "an",
        "and",
        "any",
        "are",
        "at",
        "be",
        "big",
        "can",
        "card",
        "could",
        "do",
        "does",
        "fit",
        "fits",
        "for",
        "go",
        "goes",
        "i",
        "if",
        "in",
        "into",
        "is",
        "it",
        "laptop",
        "machine",
        "many",
        "module",
        "most",
        "much",
        "my",
        "need",
        "of",
        "on",
        "one",
        "or",
        "part",
        "please",
        "run",
        "runs",
        "seat",
        "seats",
        "should",
        "slot",
        "take",
        "takes",
        "that",
        "the",
        "there",
        "this",
        "to",
        "used",
        "what",
        "which",
        "will",
        "with",
        "work",
        "works",
        "would",
    ]
)

#: Words that take back what they stand before: what is meant then is asked.
DENIALS = frozenset(["but", "except", "isn't", "neither", "no", "non", "nor", "not", "without"])

#: Words that name a kind of part, as it is asked for.
KIND_WORDS = {
    "memory": "memory", "ram": "memory", "sodimm": "memory", "so-dimm": "memory", "ssd": "m2_drive", "drive": "m2_drive",
    "disk": "m2_drive", "hdd": "bay_drive", "wifi": "radio", "wi-fi": "radio", "wlan": "radio", "radio": "radio",
    "modem": "cellular", "lte": "cellular", "cellular": "cellular", "battery": "battery", "pack": "battery",
    "accumulator": "battery",
}  # fmt: skip

#: Words that stand on labels and boxes, and say nothing that a verdict hangs on.
ON_LABELS = frozenset(["iii", "6gb/s", "express", "solid", "state", "internal", "laptop", "notebook", "module"])

_SIZE = re.compile(r"(\d+(?:\.\d+)?)(GB|TB)", re.I)
_APART = re.compile(r"\b(\d+(?:\.\d+)?)\s+([GT]B|mm)\b", re.I)
#: Generations of Wi-Fi by the names boxes print (Wi-Fi Alliance).
_WIFI = {"wifi4": "n", "wifi5": "ac", "wifi6": "ax", "wifi6e": "ax", "wifi7": "be"}


def together(text: str) -> str:
    """A figure and its unit as one word: "16 GB" is "16GB"; and "Wi-Fi 6" one name."""
    return re.sub(r"\bwi-?fi\s*(\d[eE]?)\b", r"WiFi\1", _APART.sub(r"\1\2", text), flags=re.I)


def speaks_of(word: str, part: AnyPart) -> bool:
    """Does a word say something that is so of a part? A size, a rate, a generation, a form, a maker, a word of its name."""
    low = word.lower()
    if low in DENIALS:
        return False
    if size := _SIZE.fullmatch(word):
        gb = float(size[1]) * (1000 if size[2].upper() == "TB" else 1)
        return getattr(part, "capacity_gb", None) == gb
    if low in KIND_WORDS:
        drives = (M2Drive, BayDrive)
        return part.kind == KIND_WORDS[low] or (low in ("ssd", "drive", "disk") and isinstance(part, drives))
    match part:
        case MemoryModule():
            if said := re.fullmatch(r"(?:ddr|pc)(\d)l?(?:-(\d{4}))?", low):
                of_it = part.generation == int(said[1])
                return of_it and (said[2] is None or int(said[2]) in (part.grade_mts, part.profile_mts))
            if said := re.fullmatch(r"cl(\d+)", low):
                return part.cl == int(said[1])
            if said := re.fullmatch(r"(1\.\d+)v", low):
                return part.voltage_mv == round(float(said[1]) * 1000)
            if word.isdigit() and len(word) == 4:
                return int(word) in (part.grade_mts, part.profile_mts)
        case Radio() if low in _WIFI or low.removeprefix("802.11") in _WIFI.values():
            standard = _WIFI.get(low, low.removeprefix("802.11"))
            return part.standard == standard and (low != "wifi6e" or "6" in (part.bands or ()))
        case CardBase() if re.fullmatch(r"\d{4,5}", word):
            return word == f"{part.width_mm or 0:g}{part.length_mm or 0:g}"
        case _:
            pass
    if low in ("nvme", "pcie", "sata", "emmc"):
        wanted = "pcie" if low == "nvme" else low
        return getattr(part, "interface", "sata" if isinstance(part, BayDrive) else None) == wanted
    if low in ("m.2", "m2"):
        return isinstance(part, CardBase) and part.form == "m2"
    if low in ("2.5", "2.5-inch", '2.5"', "2.5in"):
        return isinstance(part, BayDrive)
    return folded(word) in _words_of(f"{part.maker} {part.name}")


@lru_cache(maxsize=20_000)
def _words_of(name: str) -> frozenset[str]:
    """Words of a part's name, folded: read once for a question of many words."""
    return frozenset(folded(w) for w in re.split(r"[\s,]+", name))
