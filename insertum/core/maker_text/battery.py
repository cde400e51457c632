"""What a page says of the battery: energy, voltage, how it is held, its number; several energies are options."""

import re

from .collector import Heard, clauses
from .terms import DEPENDS

_BATTERY = re.compile(r"\bbatter(?:y|ies|ie)\b|\bakkus?\b|\bpack\b", re.I)
_WH = re.compile(r"(?<![\d.,A-Za-z])(\d{2,3}(?:[.,]\d{1,2})?)\s*-?\s*Wh\b", re.I)
_VOLT = re.compile(r"(?<![\d.,])(\d{1,2}[.,]\d{1,2}|\d{1,2})\s*V\b")
#: What one cell has nearly empty: no pack has less.
LEAST_MV = 3000
_CHARGER = re.compile(
    r"\bcharger\b|\badapter\b|\bnetzteil\b|\bchargeur\b|\bladegerät\b|\bpower\s+supply\b|\binput\b|\boutput\b", re.I
)
_GLUED = re.compile(r"\bglued\b|\badhesive\b|\bverklebt\b|\bgeklebt\b|\beingeklebt\b|\bcollée?s?\b", re.I)
_SCREWED = re.compile(
    r"\bheld\s+by\s+screws\b|\bscrewed\b|\bverschraubt\b|\bgeschraubt\b|\bvissée?s?\b|\bmit\s+schrauben\b", re.I
)
#: Typical and least of one battery are no two batteries.
_TWO_FIGURES = re.compile(r"\btyp\w*\b|\bmin(?:imum)?\b|\brated\b|\bnominal\w*\b|\bnenn\w*\b|\bmindest\w*", re.I)
_NUMBER = re.compile(r"\b(?=[A-Z0-9-]*\d)[A-Z]{2,}[A-Z0-9]*-[A-Z0-9]+(?:-[A-Z0-9]+)*\b")


#: Packs that are in one machine together: neither is the other's choice.
_TOGETHER = re.compile(
    r"\b(?:internal|external|removable|swappable|second|main|front|rear|both|intern\w*|extern\w*|fest\w*|wechselbar\w*|zweite\w*|amovible|deuxième|interne)\b|\b(?:two|dual|zwei|deux)\s+(?:pack|batter|akku)",
    re.I,
)


def read_battery(heard: Heard, topic: str) -> None:
    """What a statement claims of the battery: energy, voltage, how it is held, its number."""
    text = heard.statement.whole
    if not (
        topic == "battery"
        or (_BATTERY.search(text) and _WH.search(text))
        or (_BATTERY.search(text) and (_GLUED.search(text) or _SCREWED.search(text)))
    ):
        return
    own = heard.statement.text
    if DEPENDS.search(text) or (_CHARGER.search(own) and not _BATTERY.search(own)):
        return
    if len({m[1] for m in _WH.finditer(text)}) > 1 and _TWO_FIGURES.search(text):
        heard.ask("battery.design_mwh", "One battery with two figures: which stands on its label?")
        return
    if len({m[1] for m in _WH.finditer(text)}) > 1 and _TOGETHER.search(text):
        heard.ask("battery.design_mwh", "It names several packs: are they in one machine together?")
        return
    for clause in clauses(text):
        if _CHARGER.search(clause.text) and not _BATTERY.search(clause.text):
            continue
        for m in _WH.finditer(clause.text):
            heard.claim(
                "battery", "wh", round(float(m[1].replace(",", ".")) * 1000), heard.scope.at(clause.start + m.start())
            )
        if topic == "battery" and not _CHARGER.search(clause.text):
            for m in _VOLT.finditer(clause.text):
                millivolts = round(float(m[1].replace(",", ".")) * 1000)
                if millivolts >= LEAST_MV:
                    heard.claim("battery", "voltage_mv", millivolts, heard.scope.at(clause.start + m.start()))
                else:
                    heard.ask("battery.voltage_mv", f"{m[0]} is less than one cell has: what stands on the pack?")
    # The chosen word decides, wherever in the sentence it stands: it speaks of the battery.
    if _GLUED.search(text) and not re.search(r"\bnot\s+glued|nicht\s+(?:ver)?klebt", text, re.I):
        heard.claim("battery", "held_by", "glue", heard.scope.at(0))
    elif _SCREWED.search(text):
        heard.claim("battery", "held_by", "screws", heard.scope.at(0))
    if topic == "battery":
        for m in _NUMBER.finditer(heard.statement.text):
            heard.claim("battery", "accepts", m[0], heard.scope.at(0))
