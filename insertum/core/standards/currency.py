"""Currencies: codes and minor units (ISO 4217), and the signs people write them with."""

import re
from collections.abc import Iterator
from functools import lru_cache

#: ISO 4217, active codes of countries' money, by their first letter.
_BY_LETTER = {
    "A": "ED FN LL MD NG OA RS UD WG ZN",
    "B": "AM BD DT GN HD IF MD ND OB RL SD TN WP YN ZD",
    "C": "AD DF HF LP NY OP RC UP VE ZK",
    "D": "JF KK OP ZD",
    "E": "GP RN TB UR",
    "F": "JD KP",
    "G": "BP EL HS IP MD NF TQ YD",
    "H": "KD NL TG UF",
    "I": "DR LS NR QD RR SK",
    "J": "MD OD PY",
    "K": "ES GS HR MF PW RW WD YD ZT",
    "L": "AK BP KR RD SL YD",
    "M": "AD DL GA KD MK NT OP RU UR VR WK XN YR ZN",
    "N": "AD GN IO OK PR ZD",
    "O": "MR",
    "P": "AB EN GK HP KR LN YG",
    "Q": "AR",
    "R": "ON SD UB WF",
    "S": "AR BD CR DG EK GD HP LE OS RD SP TN VC YP ZL",
    "T": "HB JS MT ND OP RY TD WD ZS",
    "U": "AH GX SD YU ZS",
    "V": "ES ND UV",
    "W": "ST",
    "X": "AF CD OF PF",
    "Y": "ER",
    "Z": "AR MW WG",
}
CODES = frozenset(first + rest for first, many in _BY_LETTER.items() for rest in many.split())
#: Currencies by the decimal places of their minor unit, where it is not two.
_PLACES = {0: "BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX VND VUV XAF XOF XPF", 3: "BHD IQD JOD KWD LYD OMR TND"}
_DIGITS = {code: places for places, codes in _PLACES.items() for code in codes.split()}
#: Signs, longest first; one that several currencies share names all of them, the usual one first.
_SIGNS: dict[str, tuple[str, ...]] = {
    "US$": ("USD",), "CA$": ("CAD",), "AU$": ("AUD",), "NZ$": ("NZD",), "HK$": ("HKD",), "NT$": ("TWD",), "MX$": ("MXN",),
    "C$": ("CAD",), "A$": ("AUD",), "S$": ("SGD",), "R$": ("BRL",), "€": ("EUR",), "£": ("GBP",),
    "$": ("USD", "CAD", "AUD", "NZD", "HKD", "SGD", "TWD", "MXN", "ARS", "CLP", "COP"), "¥": ("JPY", "CNY"), "₽": ("RUB",),
    "₹": ("INR",), "₺": ("TRY",), "₩": ("KRW",), "₪": ("ILS",), "₴": ("UAH",), "฿": ("THB",), "₫": ("VND",), "₱": ("PHP",),
    "₦": ("NGN",), "₸": ("KZT",), "zł": ("PLN",), "Kč": ("CZK",), "Ft": ("HUF",), "лв": ("BGN",), "SFr": ("CHF",), "Fr.": ("CHF",),
    "lei": ("RON",), "kr": ("SEK", "NOK", "DKK", "ISK"), "Rs": ("INR", "PKR", "LKR"),
    "euros": ("EUR",), "euro": ("EUR",), "dollars": ("USD", "CAD", "AUD", "NZD"), "pounds": ("GBP",), "franken": ("CHF",),
}  # fmt: skip
_WORDS = sorted(_SIGNS, key=len, reverse=True)
_SIGN = re.compile(
    "|".join(
        rf"(?<![A-Za-zčł]){re.escape(w)}(?![A-Za-zčł])" if w[-1].isalpha() or w == "Fr." else re.escape(w)
        for w in _WORDS
    ),
    re.IGNORECASE,
)
_CODE = re.compile(r"(?<![A-Za-z])([A-Z]{3})(?![A-Za-z])")
_BY_WORD = {w.lower(): codes for w, codes in _SIGNS.items()}


def digits(code: str) -> int:
    """Decimal places of a currency's minor unit: 2 of EUR, 0 of JPY, 3 of KWD."""
    return _DIGITS.get(code, 2)


@lru_cache(maxsize=8192)  # a list says the same prices again and again
def named_in(text: str) -> tuple[tuple[str, ...], ...]:
    """Every currency a text names, each as the codes it could be, the usual first: '49,90 €' -> (("EUR",),). Words that can
    mean one and the same are one: 'US dollars, USD' -> (("USD",),)."""
    found = tuple(dict.fromkeys(_named(text)))
    common = tuple(c for c in found[0] if all(c in other for other in found)) if found else ()
    return (common,) if common else found


def _named(text: str) -> Iterator[tuple[str, ...]]:
    bare = text
    for m in _SIGN.finditer(text):
        yield _BY_WORD[m[0].lower()]
        bare = bare.replace(m[0], " ")
    upper = bare if any(c.islower() for c in bare) else bare.upper()
    yield from ((m[1],) for m in _CODE.finditer(upper) if m[1] in CODES)


@lru_cache(maxsize=8192)
def without(text: str) -> str:
    """The text without the signs and codes of currencies."""
    bare = _SIGN.sub(" ", text)
    return _CODE.sub(lambda m: " " if m[1] in CODES else m[0], bare)
