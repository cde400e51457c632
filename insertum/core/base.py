"""What every shape of the core shares: frozen models, and the error that tells how to mend it."""

from pydantic import BaseModel, ConfigDict

from .standards.currency import digits

#: Stored with every chosen plan: a later change of a rule never rewrites an old job.
RULES_VERSION = "2026.12.1"


#: Characters of any text nobody bounds otherwise: some pages of words.
MOST_TEXT = 20_000


class Frozen(BaseModel):
    """A value: compared by content, never changed in place, strict about unknown fields, and bounded: a text that a field
    does not bound itself holds :data:`MOST_TEXT` characters."""

    model_config = ConfigDict(frozen=True, extra="forbid", str_max_length=MOST_TEXT)


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


def money(minor: int, currency: str = "EUR") -> str:
    """Money in minor units as the bench says it: 12160 -> '€ 121.60'; 5980 JPY has no minor unit."""
    sign = "− " if minor < 0 else ""
    symbol = {"EUR": "€", "GBP": "£", "USD": "$"}.get(currency, currency)
    places = digits(currency)
    whole, part = divmod(abs(minor), 10**places)
    return f"{sign}{symbol} {whole}{f'.{part:0{places}d}' if places else ''}"


def plural(count: int, noun: str, nouns: str = "") -> str:
    """'1 part', '3 parts', '2 antennas': the count with its noun."""
    return f"{count} {noun if count == 1 else nouns or noun + 's'}"


def ends(range_: tuple[float, float]) -> str:
    """A figure to a tenth, or the two ends it lies between: 400–612.3."""
    low, high = (f"{round(e, 1):g}" for e in range_)
    return low if low == high else f"{low}–{high}"
