"""Bad input, and the one error that tells how to mend it."""

from collections.abc import Mapping
from enum import StrEnum


class Code(StrEnum):
    """What kind of thing is wrong, for whoever has to go on from it: words are for people, and nobody matches on them."""

    #: What was typed or sent cannot be so.
    INVALID = "invalid"
    #: Somebody else changed the same thing meanwhile.
    CONFLICT = "conflict"
    #: Its number, name or id is another one's.
    TAKEN = "taken"
    #: What is named is not there, or not any more.
    MISSING = "missing"
    #: Something else comes first.
    NOT_YET = "not_yet"
    #: Not by this person, or not from here.
    NOT_ALLOWED = "not_allowed"
    #: Nothing can be kept just now: no room, or somebody else writes.
    UNAVAILABLE = "unavailable"
    #: A fault of ours.
    BROKEN = "broken"


class InputError(ValueError):
    """Bad input: what is wrong, where, and how to mend it, with its :class:`Code`. ``fields`` are what it is about by
    name: of a conflict each field with (theirs, yours).

    Every reader and importer raises this and nothing else for bad input.
    """

    def __init__(
        self, what: str, where: str = "", mend: str = "", code: Code = Code.INVALID,
        fields: Mapping[str, tuple[str, ...]] | None = None,
    ) -> None:  # fmt: skip
        self.what, self.where, self.mend = what, where, mend
        self.code, self.fields = code, dict(fields or {})
        super().__init__(": ".join(x for x in (where, what) if x) + (f". {mend}" if mend else ""))


def whole_text(text: str, where: str) -> str:
    """The text itself. Raises :class:`InputError` where it holds half a character or none (NUL), which nothing keeps."""
    if "\x00" in text or any("\ud800" <= c <= "\udfff" for c in text):
        raise InputError("half a character, or none, in it", where, "Type it again.")
    return text
