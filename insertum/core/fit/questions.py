"""Questions: an attribute as one would ask for it, in its own words."""

from collections.abc import Iterable

from ..known.known import Known
from ..machine.attribute import attributes_of, lowered
from ..machine.drive_parts import BayDrive
from ..machine.part import CARDS, Fittable, MemoryModule, Pack
from .leaf import Attribute

#: Places that are no part of the machine's description: what is asked of them stands by itself.
NO_PLACE = ("fitted", "configuration", "exclusion", "firmware")


def asked(attributes: Iterable[Attribute], known: Known, part: Fittable) -> tuple[Attribute, ...]:
    """The attributes as one would ask for them: consequences as what is looked at, and none that means nothing
    before another is known."""
    named: dict[Attribute, None] = {}
    for place, name in attributes:
        if name == "holds_mm":
            name = known.found(place, name).asks
        elif name.startswith("content."):
            place, name = "fitted", place
        named[(place, name)] = None
    first = {n for _, n in named}
    return tuple(a for a in named if _after(known, part, a) not in first)


def _after(known: Known, part: Fittable, attribute: Attribute) -> str:
    place, name = attribute
    if place == "part":
        words = attributes_of(type(part)).get(name)
        return words.after if words and words.after else "-"
    if place in NO_PLACE or slot_of_part(place):
        return "-"
    return known.words(place, name).after or "-"


def slot_of_part(place: str) -> str:
    """The slot, where a place is the part in it (today's, or one bought)."""
    where, _, slot = place.partition(" ")
    return slot if where in ("in", "new") else ""


#: The words of what a part may leave unsaid, whichever kind it is of.
_PART_WORDS = {
    name: words for kind in (*CARDS, MemoryModule, BayDrive, Pack) for name, words in attributes_of(kind).items()
}


def words_of(known: Known, part: Fittable, attribute: Attribute) -> tuple[str, str, int]:
    """(label, how to look, minutes of looking) in the attribute's own words."""
    place, name = attribute
    if place == "part":
        if name == "drivers":
            return "Driver for the owner's system", "The maker's driver page for that system, or ask the seller.", 5
        words = attributes_of(type(part))[name]
        return words.label, words.how, words.look_minutes
    if place == "firmware":
        return "Firmware version", "Read it from the running system, or from the firmware's first screen.", 1
    if place == "fitted":
        return f"What sits in {known.place_name(name)}", "Read it from the running system, or look under the cover.", 1
    if place == "configuration":
        return "Processor", "Identify the configuration, or read the machine.", 1
    if slot := slot_of_part(place):
        return _words_of_fitted(known, place, slot, name)
    if place == "exclusion":
        return "What the two slots do to each other", "The manual's note on shared lanes and room, or try both.", 5
    words = known.words(place, name)
    return words.label, words.how, words.look_minutes


def _words_of_fitted(known: Known, place: str, slot: str, name: str) -> tuple[str, str, int]:
    where = known.place_name(slot) if place.startswith("in ") else f"the part for {known.place_name(slot)}"
    if name == "full_mwh":
        return f"{where}: full charge today", "Read it from the running system.", 1
    words = _PART_WORDS.get(name)
    label = lowered(words.label) if words else name.replace("_", " ")
    return f"{where}: {label}", words.how if words else "The part's own label.", words.look_minutes if words else 2


def place_of(attribute: Attribute) -> str:
    """How an attribute is named in the API: ``slot.attribute``, ``part.attribute``, ``fitted.slot``."""
    return f"{attribute[0]}.{attribute[1]}"
