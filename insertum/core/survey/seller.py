"""What is asked of a seller: one message for a part, with only what is open of it for this machine (rules.md section 7)."""

from collections.abc import Iterable

from ..frozen import Frozen
from ..machine.attribute import attributes_of, lowered
from ..machine.part import Fittable

#: Of a driver: it is asked by the owner's system, and is no single attribute of the part.
_DRIVERS = "drivers"


class SellerMessage(Frozen):
    """``asks`` are the part's attributes that are open, ``text`` the message as it is sent."""

    part: str
    asks: tuple[str, ...]
    text: str


def seller_message(part: Fittable, places: Iterable[str], system: str = "") -> SellerMessage | None:
    """The message about what verdicts on this machine wait for of a part: ``places`` as they are asked (``part.ranks``),
    of which those of the machine are left out. None where nothing is asked of the seller. ``system`` is the owner's."""
    words = attributes_of(type(part))
    asks = dict.fromkeys(p.removeprefix("part.") for p in places if p.startswith("part."))
    lines = []
    for name in asks:
        if name == _DRIVERS:
            lines.append(f"is there a driver for {system or 'the system it is for'}, and does it lack anything there?")
            continue
        a = words[name]
        choice = f": {' or '.join(a.options)}" if a.kind == "choice" and a.options else ""
        unit = f", in {a.unit}" if a.unit else ""
        lines.append(f"{lowered(a.label)}{unit}{choice}?")
    if not lines:
        return None
    numbered = "\n".join(f"{n}. {line[0].upper()}{line[1:]}" for n, line in enumerate(lines, 1))
    own = f" ({part.name})" if part.name != part.number else ""
    text = f"Before we order {part.number}{own}, please tell us:\n{numbered}\nOne answer to each is enough. Thank you."
    return SellerMessage(part=part.number, asks=tuple(asks), text=text)
