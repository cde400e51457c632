"""Where a maker's words land in a machine of the library: claims beside those there are, never over them.

What the shape has no place for, or what only some configurations have, is shown and kept out. Of several slots the page
tells apart, somebody says which is which; nothing is guessed.
"""

from collections.abc import Collection, Mapping
from typing import Any, Literal

from ..errors import InputError
from ..frozen import Frozen
from ..machine.attribute import Attribute, attributes_of, lowered, shown
from ..machine.claim import Fact
from ..machine.memory_system import MemorySlot
from ..machine.shape import Machine
from .homes import PLACE_NAMES, configuration_of, kind_of_place, of_template
from .shape import Spec, Stated
from .writer import NEW, OTHER, SHAPES, SOCKETS, TEMPLATES, Writer

#: Where a claim goes: into the machine, it is there already, somebody has to say which slot, or it is only shown.
Goes = Literal["in", "there", "which", "shown"]


class WordsRow(Frozen):
    """A claim as somebody decides on it: its words, what the library says there now, and where it goes. ``doubt`` is how its
    phrase could be read otherwise: it is not taken in unless somebody says so."""

    id: str
    label: str
    value: str
    unit: str
    configuration: str
    phrase: str
    line: int
    now: str
    goes: Goes
    doubt: str = ""


class WordsAsked(Frozen):
    """A place of the page somebody has to name, and the slots it could be."""

    place: str
    phrase: str
    slots: dict[str, str]


class WordsQuestion(Frozen):
    """What the page touches and leaves open."""

    label: str
    says: str
    phrase: str


class WordsPage(Frozen):
    """A page as Survey shows it; ``unread`` are its own words about places that told nothing."""

    rows: tuple[WordsRow, ...]
    questions: tuple[WordsQuestion, ...]
    asked: tuple[WordsAsked, ...]
    unread: tuple[str, ...] = ()


def page(machine: Machine, spec: Spec, places: Mapping[str, str] | None = None) -> WordsPage:
    """What of the page there is to accept, with what the library says of each place now."""
    homes = _homes(machine, spec, places or {})
    rows = tuple(_row(machine, s, homes) for s in spec.stated)
    asked = tuple(
        WordsAsked(
            place=p,
            phrase=next(s.phrase for s in spec.stated if s.place == p),
            slots={s.id: s.name for s in of_template(machine, "m2_drive")} | {NEW: "a slot the library lacks"},
        )
        for p, home in homes.items()
        if home is None
    )
    questions = tuple(WordsQuestion(label=_label(q.about), says=q.says, phrase=q.phrase) for q in spec.questions)
    unread = tuple(dict.fromkeys(u.phrase for u in spec.unread))
    return WordsPage(rows=rows, questions=questions, asked=asked, unread=unread)


def landed(
    machine: Machine, spec: Spec, chosen: Collection[str], where: str, places: Mapping[str, str]
) -> dict[str, Any]:
    """The machine with the chosen claims in it, each ``documented`` with where it stands. Raises :class:`InputError`
    for a claim the page does not hold, and where it is open which slot is meant."""
    homes = _homes(machine, spec, places)
    ids = {_id(s): s for s in spec.stated}
    if unknown := [c for c in chosen if c not in ids]:
        raise InputError(f"the text states no {unknown[0]}", "maker's words", "Read it again.")
    taken = [ids[c] for c in dict.fromkeys(chosen)]
    if open_ := [s for s in taken if homes.get(s.place, "") is None]:
        raise InputError(
            f"which slot is {_label(open_[0].place)}?", "maker's words", "Choose it, or leave its claims out."
        )
    data = machine.model_dump(mode="json")
    writer = Writer(data, machine, where)
    for s in sorted(taken, key=lambda s: _TURN.get(s.place, 5)):
        if _row(machine, s, homes).goes == "in":
            writer.write(s, homes)
    return writer.data


#: Configurations first, then places, then what is said of them.
_TURN = {"processor": 0, "m2_drive": 1, "memory": 1}


def _id(s: Stated) -> str:
    more = f"={s.value}" if s.name in ("speed_by_modules", "mini_sizes", "accepts", "name") else ""
    return f"{s.about}{more}@{s.configuration}"


def _label(about: str) -> str:
    place, _, name = about.partition(".")
    kind, number = kind_of_place(place), place.rpartition("-")[2] if "-" in place else ""
    head = f"{PLACE_NAMES.get(kind, kind)}{' ' + number if number.isdigit() else ''}"
    return f"{head}: {lowered(_words(kind, name)[0])}" if name else head


def _words(kind: str, name: str) -> tuple[str, str, float]:
    """(label, unit, scale) of what is said."""
    declared: Attribute | None = attributes_of(SHAPES[kind]).get(name) if kind in SHAPES else None
    if declared:
        return declared.label, declared.unit, declared.scale
    return OTHER.get(name, (name.replace("_", " "), "", 1))


def _row(machine: Machine, s: Stated, homes: Mapping[str, str | None]) -> WordsRow:
    label, unit, scale = _words(kind_of_place(s.place), s.name)
    now = _now(machine, s, homes)
    value = _value(s, scale)
    goes: Goes = "in"
    if s.place in homes and homes[s.place] is None:
        goes = "which"
    elif now and value in now.split("; "):
        goes = "there"
    elif not _has_room(machine, s, now):
        goes = "shown"
    return WordsRow(
        id=_id(s), label=_label(s.about), value=value, unit=unit, configuration=s.configuration, phrase=s.phrase, line=s.line,
        now=now, goes=goes, doubt=s.doubt,
    )  # fmt: skip


def _value(s: Stated, scale: float) -> str:
    if s.name == "speed_by_modules":
        modules, _, rate = s.value.partition(":")
        return f"{rate} with {modules}"
    if isinstance(s.value, list):
        return ", ".join(shown(v, scale) for v in s.value)
    return shown(s.value, scale)


def _has_room(machine: Machine, s: Stated, now: str) -> bool:
    """Has the shape a place for it? Options have none, nor have places of one configuration or fewer than there are."""
    if s.name == "options":
        return False
    if s.name in ("count", "sockets"):
        return not s.configuration and s.value > int(now or 0)
    if s.name in ("standard", "streams", "design_mwh"):
        slot = next(iter(of_template(machine, TEMPLATES[s.place])), None)
        return slot is None or (slot.fitted is None and not slot.looked)
    if s.name in ("soldered_gb", "soldered_mts"):
        return not machine.memory.soldered or bool(s.configuration)
    if s.name == "form":
        return not of_template(machine, TEMPLATES[s.place]) or machine.draft
    if kind_of_place(s.place) == "step":
        return not machine.obstacles
    return True


def _homes(machine: Machine, spec: Spec, places: Mapping[str, str]) -> dict[str, str | None]:
    """The slot each place of the page is: an id, NEW for one to be drawn, None where somebody has to say."""
    named = sorted({s.place for s in spec.stated if s.place.startswith("drive-")})
    there = [s.id for s in of_template(machine, "m2_drive")]
    said = {p: sorted((s.name, str(s.value)) for s in spec.stated if s.place == p) for p in named}
    alike = len({str(v) for v in said.values()}) <= 1
    homes: dict[str, str | None] = {}
    for i, place in enumerate(named):
        if places.get(place) in (*there, NEW):
            homes[place] = places[place]
        elif not there or (alike and len(named) > 1 and i >= len(there)):
            homes[place] = NEW
        elif (named == ["drive-1"] and len(there) == 1) or (alike and len(named) >= max(2, len(there))):
            homes[place] = there[i]
        else:
            homes[place] = None
    for place, template in TEMPLATES.items():
        if place != "drive" and any(s.place == place and not (s.name == "count" and s.value == 0) for s in spec.stated):
            homes[place] = next((s.id for s in of_template(machine, template)), NEW)
    return homes


def _now(machine: Machine, s: Stated, homes: Mapping[str, str | None]) -> str:
    """What the library says there now, in the same words."""
    if s.name == "count":
        template = "m2_drive" if s.place == "m2_drive" else TEMPLATES[s.place]
        count = len(of_template(machine, template))
        return str(count) if count else ""
    if s.about == "memory.sockets":
        count = len(of_template(machine, "memory"))
        return str(count) if count else ""
    if s.about == "memory.soldered_gb":
        laid = _laid(machine, s.configuration)
        return "; ".join(str(c.capacity_gb) for c in laid.memory.soldered) if laid else ""
    if s.about == "processor.name":
        found = configuration_of(machine, s.value)
        return s.value if found else ""
    if kind_of_place(s.place) == "step":
        step = next((o for o in machine.obstacles if o.id == s.place), None)
        return shown(getattr(step, s.name)) if step and getattr(step, s.name) else ""
    laid = _laid(machine, s.configuration)
    if laid is None:
        return ""
    target: Any = laid.memory if s.place == "memory" else None
    name = s.name
    if s.place == "memory" and s.name in SOCKETS:
        target, name = next((x for x in laid.slots if isinstance(x, MemorySlot)), None), SOCKETS[s.name]
    elif home := homes.get(s.place):
        target = next((x for x in laid.slots if x.id == home), None)
    _, _, scale = _words(kind_of_place(s.place), s.name)
    if s.name == "cores":
        return shown(laid.configuration.cores) if laid.configuration.cores else ""
    if s.name == "form":
        return str(target.form) if target is not None else ""
    if s.name in ("standard", "streams", "design_mwh"):
        value = getattr(getattr(target, "fitted", None), s.name, None)
        return "" if value is None else shown(value, scale)
    if s.name == "speed_by_modules":
        modules = s.value.partition(":")[0]
        claims = (
            laid.memory.speed_by_modules[int(modules)].claims if int(modules) in laid.memory.speed_by_modules else ()
        )
        return "; ".join(f"{c.value} with {modules}" for c in claims)
    fact = getattr(target, name, None)
    if isinstance(fact, Fact):
        return "; ".join(dict.fromkeys(shown(c.value, scale) for c in fact.claims))
    return ""


def _laid(machine: Machine, named: str) -> Any:
    found = configuration_of(machine, named) if named else machine.configurations[0]
    return machine.configured(found.id) if found else None
