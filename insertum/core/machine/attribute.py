"""An attribute, declared once, on its field: what it is called, its unit, what it could be, and how to look.

Survey, editor, map, matrix, "measure first", the API and the documents all read these words here. A shape whose
facts lack them does not load (:func:`declared`).
"""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel

from .claim import Fact

#: How an attribute is typed in and shown.
Kind = Literal["number", "choice", "flag", "list", "numbers", "text"]
#: Where one looks, cheapest first; ties in what to ask first go by it.
Where = Literal["software", "firmware", "label", "seller", "manual", "cover", "board"]
#: Minutes one look takes there, where the attribute does not say otherwise.
MINUTES: dict[str, int] = {"software": 1, "firmware": 3, "label": 2, "seller": 5, "manual": 5, "cover": 15, "board": 20}


@dataclass(frozen=True)
class Attribute:
    """The words of one attribute.

    ``scale`` leads from the stored integer to the unit shown (1000 µm are 1 mm). ``values`` is what it could be
    when nothing is known: every real value; for lists, every member there is (none given: anything). ``low`` and
    ``high``, in the stored unit, bound a height, room or gap instead, and are the range a laptop can have.
    ``listed``: only figures that ``values`` names tell something. ``samples``: each of ``values``
    stands for others like it, so that a bound tells nothing. ``after`` names the attribute that is asked first, where this one means nothing before.
    ``returnable``: the worst that can happen is that the part does not work and goes back (rules.md section 2).
    """

    label: str
    kind: Kind = "number"
    unit: str = ""
    scale: int = 1
    values: tuple[Any, ...] = ()
    low: int | None = None
    high: int | None = None
    where: Where = "manual"
    tool: str = ""
    how: str = ""
    minutes: int = 0
    is_limit: bool = False
    returnable: bool = False
    listed: bool = False
    samples: bool = False
    after: str = ""

    def tells(self, value: Any) -> bool:
        """Does this value tell anything? A width of 20 mm is unknown, not nonsense (rules.md section 4)."""
        return not self.listed or value in self.values

    @property
    def options(self) -> tuple[str, ...]:
        """What can be chosen on screen."""
        return tuple(map(str, self.values)) if self.kind in ("choice", "list") else ()

    @property
    def look_minutes(self) -> int:
        return self.minutes or MINUTES[self.where]


def shown(value: Any, scale: float = 1) -> str:
    """A value as a person reads it."""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, frozenset):
        value = sorted(value, key=lambda v: (isinstance(v, str), v))  # the same words every time
    if isinstance(value, tuple | list):
        return ", ".join(map(str, value)) or "none"
    if isinstance(value, int | float):
        return f"{value / scale:g}" if scale != 1 else f"{value}"
    return str(value).replace("_", " ")


def attributes_of(model: type[Any]) -> dict[str, Attribute]:
    """The attributes of a shape by field, in declared order."""
    known = _DECLARED.get(model)
    if known is None:
        known = _DECLARED[model] = _attributes(model)
    return known


_DECLARED: dict[type[Any], dict[str, Attribute]] = {}


def _attributes(model: type[Any]) -> dict[str, Attribute]:
    found = {}
    for name, field in model.model_fields.items():
        words = next((m for m in field.metadata if isinstance(m, Attribute)), None)
        if words is not None:
            found[name] = words
    return found


def declared(model: type[BaseModel]) -> None:
    """Raises :class:`TypeError` when a fact of the shape has no words."""
    facts = [n for n, f in model.model_fields.items() if isinstance(f.default, Fact)]
    if silent := [n for n in facts if n not in attributes_of(model)]:
        raise TypeError(f"{model.__name__}.{silent[0]} is a fact without words: declare its Attribute on the field")


def lowered(label: str) -> str:
    """A label inside a sentence: 'Room below' is 'room below', 'PCIe lanes', 'Wi-Fi standard' and 'M.2' stay."""
    first = label.partition(" ")[0]
    named = any(ch.isupper() or ch.isdigit() for ch in first[1:])
    return label if named else label[:1].lower() + label[1:]


def listed(names: Iterable[str]) -> str:
    """'a, b and c'."""
    words = list(names)
    return " and ".join([", ".join(words[:-1]), words[-1]] if len(words) > 1 else words)
