"""Bad input, and the one error that tells how to mend it."""


class InputError(ValueError):
    """Bad input: what is wrong, where, and how to mend it.

    Every reader and importer raises this and nothing else for bad input.
    """

    def __init__(self, what: str, where: str = "", mend: str = "") -> None:
        self.what, self.where, self.mend = what, where, mend
        super().__init__(": ".join(x for x in (where, what) if x) + (f". {mend}" if mend else ""))


def whole_text(text: str, where: str) -> str:
    """The text itself. Raises :class:`InputError` where it holds half a character or none (NUL), which nothing keeps."""
    if "\x00" in text or any("\ud800" <= c <= "\udfff" for c in text):
        raise InputError("half a character, or none, in it", where, "Type it again.")
    return text
