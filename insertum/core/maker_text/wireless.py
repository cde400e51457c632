"""What a page says of the radio and of the place for a cellular card."""

import re

from ..printed.radio import names_of_standards, standards_in, streams_in
from .collector import Heard, clauses
from .sockets import size_and_key
from .terms import DEPENDS, NUMBER, ON_SALE, SLOT, SOLDERED, number

_RADIO = re.compile(r"\bWLAN|\bWi-?Fi\b|\bwireless\b|\bradio\b|\bfunk\b|\bsans\s+fil\b|\b802\.11", re.I)
_CELLULAR = re.compile(r"\bWWAN\b|\bcellular\b|\bmobile\s+broadband\b|\bmobilfunk|\bLTE\b|\b[45]G\b(?!Hz)", re.I)
_NONE = re.compile(
    r"\b(?:none|not?\s+(?:available|provided|possible|present)|nicht\s+(?:vorgesehen|vorhanden|möglich)|keine?r?|aucune?|non\s+(?:prévue?|disponible))\b|^(?:[^:]*:)?\s*(?:no|nein|non)\s*$|\bno\s+(?:cellular|WWAN|mobile\s+broadband)\b",
    re.I,
)
_TRAY = re.compile(
    r"\bSIM[- ]?(?:card\s+)?(?:tray|slot|holder|schacht|fach|-Einschub)|\btiroir\s+SIM|\bemplacement\s+(?:nano-?)?SIM",
    re.I,
)
_LEADS = re.compile(rf"\b({NUMBER})\s+(?:antennas?|antenna\s+leads?|antennen\w*|antennes?)\b", re.I)
_PREPARED = re.compile(r"\bprepared\b|\bready\b|\bvorbereitet\b|\bprédisposé", re.I)


def read_radio(heard: Heard, topic: str) -> None:
    """What a statement claims of the radio's place: socketed or soldered, wiring, leads."""
    text = heard.statement.whole
    own = topic == "radio"
    if not (own or _RADIO.search(text)) or topic == "cellular" or DEPENDS.search(text):
        return
    if _CELLULAR.search(text) and not own:
        return
    sold = bool(ON_SALE.search(heard.statement.text))
    whose = heard.scope.at(0)
    standards, named = standards_in(text), names_of_standards(text)
    alternatives = len(named) > 1 and len(standards) == 1 and re.search(r"\b(?:or|oder|ou)\b", text)
    if not sold and len(standards) == 1 and not alternatives:
        heard.claim("radio", "standard", standards.pop(), whose)
    elif len(standards) > 1 or alternatives:
        heard.ask("radio.standard", "It names several: which card is in this machine?")
    streams = streams_in(text)
    if (
        not sold
        and len(streams) == 1
        and (named or own or _RADIO.search(text))
        and not (len(standards) > 1 or alternatives)
    ):
        heard.claim("radio", "streams", streams.pop(), whose)
    if sold:
        return
    radio_parts = [c for c in clauses(text) if _RADIO.search(c.text) and _alone(c.text)]
    if any(SOLDERED.search(c.text) for c in (clauses(text) if _alone(text) else radio_parts)):
        heard.claim("radio", "form", "soldered", whose)
        return
    if len(re.findall(r"\bM\.2\b", text)) == 1 and _alone(text):
        heard.claim("radio", "form", "m2", whose)
        for said in size_and_key(text):
            if not said.name.startswith("?") and said.name != "width_mm":
                heard.claim("radio", said.name, said.value, whose)


def _alone(text: str) -> bool:
    """Does the sentence speak of a radio and of no drive or memory besides?"""
    return not re.search(
        r"\bdrives?\b|\bSSD\b|\bSO-DIMM|\bmemory\b|\bbay\b|\blaufwerk|\bspeicher|\bdisque\b|\bmémoire\b|\bkey M\b|\bRAM\b|speicher\b|\bSATA\b|\bNVMe\b|\bx4\b",
        text,
        re.I,
    )


def read_cellular(heard: Heard, topic: str) -> None:
    """What a statement claims of a modem's place: there or not, wired, with leads and a SIM tray."""
    text = heard.statement.whole
    if not (topic == "cellular" or _CELLULAR.search(text)) or DEPENDS.search(text) or topic == "radio":
        return
    if ON_SALE.search(heard.statement.text):
        return
    whose = heard.scope.at(0)
    if _NONE.search(text):
        heard.claim("cellular", "count", 0, whose)
        return
    if re.search(r"\bM\.2\b", text) and SLOT.search(text):
        heard.claim("cellular", "count", 1, whose)
        heard.claim("cellular", "form", "m2", whose)
        for said in size_and_key(text):
            if not said.name.startswith("?"):
                heard.claim("cellular", said.name, said.value, whose)
    if _PREPARED.search(text):
        return
    if _TRAY.search(text) and not re.search(
        r"\b(?:no|without|kein\w*|ohne|sans|pas\s+de)\s+(?:nano-?)?SIM", text, re.I
    ):
        heard.claim("cellular", "sim_tray", "present", whose)
    elif _TRAY.search(text):
        heard.claim("cellular", "sim_tray", "missing", whose)
    if m := _LEADS.search(text):
        heard.claim("cellular", "leads", number(m[1]), whose)
