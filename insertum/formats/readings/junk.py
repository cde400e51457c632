"""Telling what a tool said from what it printed because it had nothing to say."""

import re
from collections.abc import Iterator
from typing import Any

#: What firmware and tools write where they have nothing to say.
_JUNK = {
    "", "unknown", "none", "not specified", "not provided", "no module installed", "not present", "n/a", "null",
    "to be filled by o.e.m.", "default string", "system serial number", "-1", "0", "0x0000", "undefined", "empty",
    "<out of spec>", "<bad index>", "not available", "oem", "o.e.m.",
}  # fmt: skip
#: A line no tool writes longer than this is cut, so that every reader stays linear in its text.
MOST_LINE = 1000
#: Units to bytes, as tools write them: memory by 1024.
_UNITS = {"": 0, "K": 1, "M": 2, "G": 3, "T": 4}


def words_of(value: Any) -> str:
    """A text as the tool meant it: padding gone, junk and negative serials as nothing."""
    text = " ".join(str(value if value is not None else "")[: 4 * MOST_LINE].replace("\x00", " ").split())
    return "" if text.lower() in _JUNK or text.startswith("-") else text[:200]


def whole(value: Any) -> int | None:
    """A whole number that a tool may write as text; None for anything else, below zero, or longer than any figure."""
    if isinstance(value, bool) or len(text := str(value).strip()) > 20:
        return None
    try:
        number = int(text)
    except ValueError:
        return None
    return number if 0 <= number < 2**63 else None


def lines_of(text: str) -> Iterator[str]:
    """The lines of a tool's output. A last line without its end may be cut in the middle of a number or a name, and
    is left out."""
    for line in text.split("\n")[:-1]:
        yield line.rstrip("\r")[:MOST_LINE]


def is_cut(text: str) -> bool:
    """Does the text end in the middle of a line?"""
    return bool(text) and not text.endswith("\n")


def size_mb(text: str) -> int | None:
    """'8 GB', '8192 MB', '16384 MiB', '512 kB' to MB by 1024; None for anything else or less than one."""
    found = re.fullmatch(r"(\d{1,12})\s*([KMGT])i?B", text.strip()[:40], re.IGNORECASE)
    return int(found[1]) * 1024 ** _UNITS[found[2].upper()] // 2**20 or None if found else None


def channel_in(*texts: str) -> str:
    """The channel firmware names ("ChannelA-DIMM0", "P0 CHANNEL B"); empty where it names none: never guessed."""
    found = {m[1].upper() for t in texts if (m := re.search(r"channel[ _-]?([a-h])(?![a-z])", t, re.IGNORECASE))}
    return found.pop() if len(found) == 1 else ""


def pci_address(text: Any) -> str:
    """'02:00.0' or '0000:02:00.0' as '0000:02:00.0' (a remapped drive's domain has five digits); "" for anything
    else."""
    found = re.fullmatch(r"(?:([0-9a-f]{4,8}):)?([0-9a-f]{2}):([0-9a-f]{2})\.([0-7])", str(text).strip().lower()[:20])
    return f"{found[1] or '0000'}:{found[2]}:{found[3]}.{found[4]}" if found else ""
