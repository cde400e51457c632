"""Currencies as lists write them."""

import pytest

from insertum.core.money import money
from insertum.core.standards import currency


@pytest.mark.parametrize(
    ("text", "codes"),
    [
        ("49,90 €", ["EUR"]), ("EUR 49.90", ["EUR"]), ("49.90 eur", []), ("$49.90", ["USD"]), ("US$ 49.90", ["USD"]), ("C$49", ["CAD"]),
        ("CHF 49.-", ["CHF"]), ("Fr. 49.-", ["CHF"]), ("49 kr", ["SEK"]), ("199 zł", ["PLN"]), ("1 299 Kč", ["CZK"]), ("¥5,980", ["JPY"]),
        ("£31", ["GBP"]), ("R$ 120", ["BRL"]), ("12.500 KWD", ["KWD"]), ("Price", []), ("price USD", ["USD"]), ("Preis in Franken", ["CHF"]),
        ("Krk 12", []), ("SSD 12", []), ("12 RAM", []), ("EUR/USD", ["EUR", "USD"]), ("€ or $", ["EUR", "USD"]), ("Prix en euros", ["EUR"]),
    ],
)  # fmt: skip
def test_what_a_text_names(text: str, codes: list[str]) -> None:
    assert [c[0] for c in currency.named_in(text)] == codes


def test_a_shared_sign_names_all_it_could_be() -> None:
    assert {"USD", "CAD"} <= set(currency.named_in("$12")[0]) and {"SEK", "NOK"} <= set(currency.named_in("12 kr")[0])


@pytest.mark.parametrize(
    ("minor", "code", "says"),
    [
        (12160, "EUR", "€ 121.60"),
        (5980, "JPY", "JPY 5980"),
        (12500, "KWD", "KWD 12.500"),
        (-590, "GBP", "− £ 5.90"),
        (5, "USD", "$ 0.05"),
    ],
)
def test_money_has_the_decimals_of_its_currency(minor: int, code: str, says: str) -> None:
    assert money(minor, code) == says
