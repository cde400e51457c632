"""Money as the bench says it."""

from .standards.currency import digits


def major(minor: int, currency: str) -> str:
    """An amount in major units, with the currency's own decimals (ISO 4217): 12160 of EUR is '121.60', of JPY '12160'."""
    places = digits(currency)
    whole, part = divmod(abs(minor), 10**places)
    return f"{'-' if minor < 0 else ''}{whole}{f'.{part:0{places}d}' if places else ''}"


def money(minor: int, currency: str = "EUR") -> str:
    """Money in minor units as the bench says it: 12160 -> '€ 121.60'; 5980 JPY has no minor unit."""
    sign = "− " if minor < 0 else ""
    symbol = {"EUR": "€", "GBP": "£", "USD": "$"}.get(currency, currency)
    return f"{sign}{symbol} {major(abs(minor), currency)}"
