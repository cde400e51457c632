"""Money as the bench says it."""

from .standards.currency import digits


def money(minor: int, currency: str = "EUR") -> str:
    """Money in minor units as the bench says it: 12160 -> '€ 121.60'; 5980 JPY has no minor unit."""
    sign = "− " if minor < 0 else ""
    symbol = {"EUR": "€", "GBP": "£", "USD": "$"}.get(currency, currency)
    places = digits(currency)
    whole, part = divmod(abs(minor), 10**places)
    return f"{sign}{symbol} {whole}{f'.{part:0{places}d}' if places else ''}"
