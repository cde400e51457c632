"""Telling what a tool said from what it printed because it had nothing to say."""

import re
from typing import Any

#: What firmware and tools write where they have nothing to say.
_JUNK = {
    "", "unknown", "none", "not specified", "not provided", "no module installed", "not present", "n/a", "null",
    "to be filled by o.e.m.", "default string", "system serial number", "-1", "0", "0x0000", "undefined", "empty",
}  # fmt: skip


def said(value: Any) -> str:
    """A text as the tool meant it: padding gone, junk and negative serials as nothing."""
    text = " ".join(str(value if value is not None else "").replace("\x00", " ").split())
    return "" if text.lower() in _JUNK or text.startswith("-") else text[:200]


def whole(value: Any) -> int | None:
    """A whole number that a tool may write as text; None for anything else or below zero."""
    try:
        number = int(str(value).strip())
    except (TypeError, ValueError):
        return None
    return number if 0 <= number < 2**63 else None


def channel_in(*texts: str) -> str:
    """The channel firmware names ("ChannelA-DIMM0", "P0 CHANNEL B"); empty where it names none: never guessed."""
    found = {m[1].upper() for t in texts if (m := re.search(r"channel[ _-]?([a-h])(?![a-z])", t, re.IGNORECASE))}
    return found.pop() if len(found) == 1 else ""
