"""Where a maker's words land in a machine of the library: claims beside those there are, never over them.

What the shape has no place for, or what only some configurations have, is shown and kept out. Of several slots the page
tells apart, somebody says which is which; nothing is guessed.
"""

from collections.abc import Collection, Iterable, Mapping
from typing import Any, Literal

from ..errors import InputError
from ..frozen import Frozen
from ..machine.attribute import Attribute, attributes_of, lowered, shown
from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import CellularSlot, DriveSlot, RadioSlot
from ..machine.claim import Fact
from ..machine.memory_system import MemorySlot, MemorySystem
from ..machine.shape import Configuration, Machine, Slot
from ..spelling import folded
from ..survey.draft import slot_from, slug
from .shape import Spec, Stated
from .terms import PROCESSOR_NAME

#: Where a claim goes: into the machine, it is there already, somebody has to say which slot, or it is only shown.
Goes = Literal["in", "there", "which", "shown"]

_TEMPLATES = {
    "drive": "m2_drive",
    "bay": "bay",
    "msata": "msata",
    "emmc": "emmc",
    "radio": "radio",
    "cellular": "cellular",
    "battery": "battery",
}
_SHAPES: dict[str, type[Any]] = {
    "memory": MemorySystem, "drive": DriveSlot, "msata": DriveSlot, "emmc": DriveSlot, "bay": BaySlot, "radio": RadioSlot,
    "cellular": CellularSlot, "battery": BatterySlot,
}  # fmt: skip
_PLACE_NAMES = {
    "memory": "Memory", "drive": "Drive slot", "m2_drive": "M.2 drive slots", "bay": "2.5-inch bay", "msata": "mSATA slot",
    "emmc": "Soldered storage", "radio": "Radio", "cellular": "Cellular", "battery": "Battery", "processor": "Processor",
    "step": "Way in, step",
}  # fmt: skip
#: What has no attribute in the shape: label, unit, scale.
_OTHER = {
    "soldered_gb": ("On the board", "GB", 1), "soldered_mts": ("Its chips' rate", "MT/s", 1), "sockets": ("Sockets", "", 1),
    "generation": ("Generation", "", 1), "socket_limit_gb": ("A socket takes at most", "GB", 1), "count": ("How many", "", 1),
    "form": ("How it gets in", "", 1), "standard": ("Radio standard", "", 1), "streams": ("Streams", "", 1),
    "design_mwh": ("Energy", "Wh", 1000), "options": ("Sold with", "Wh", 1000), "name": ("Named", "", 1), "cores": ("Cores", "", 1),
    "speed_by_modules": ("Rate by modules", "MT/s", 1), "what": ("What comes off", "", 1), "screws": ("Screws", "", 1),
    "tool": ("Tool", "", 1), "length_mm": ("Screw length", "mm", 1), "captive": ("Captive", "", 1),
}  # fmt: skip
#: Said of memory's sockets, each of them.
_SOCKETS = {"generation": "generation", "socket_limit_gb": "limit_gb"}


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


NEW = "new"


def page(machine: Machine, spec: Spec, places: Mapping[str, str] | None = None) -> WordsPage:
    """What of the page there is to accept, with what the library says of each place now."""
    homes = _homes(machine, spec, places or {})
    rows = tuple(_row(machine, s, homes) for s in spec.stated)
    asked = tuple(
        WordsAsked(
            place=p,
            phrase=next(s.phrase for s in spec.stated if s.place == p),
            slots={s.id: s.name for s in _of_template(machine, "m2_drive")} | {NEW: "a slot the library lacks"},
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
    writer = _Writer(data, machine, where)
    for s in sorted(taken, key=lambda s: _TURN.get(s.place, 5)):
        if _row(machine, s, homes).goes == "in":
            writer.write(s, homes)
    return writer.data


#: Configurations first, then places, then what is said of them.
_TURN = {"processor": 0, "m2_drive": 1, "memory": 1}


def _id(s: Stated) -> str:
    more = f"={s.value}" if s.name in ("speed_by_modules", "mini_sizes", "accepts", "name") else ""
    return f"{s.about}{more}@{s.configuration}"


def _kind(place: str) -> str:
    return place.rpartition("-")[0] if place.startswith(("drive-", "step-")) else place


def _label(about: str) -> str:
    place, _, name = about.partition(".")
    kind, number = _kind(place), place.rpartition("-")[2] if "-" in place else ""
    head = f"{_PLACE_NAMES.get(kind, kind)}{' ' + number if number.isdigit() else ''}"
    return f"{head}: {lowered(_words(kind, name)[0])}" if name else head


def _words(kind: str, name: str) -> tuple[str, str, float]:
    """(label, unit, scale) of what is said."""
    declared: Attribute | None = attributes_of(_SHAPES[kind]).get(name) if kind in _SHAPES else None
    if declared:
        return declared.label, declared.unit, declared.scale
    return _OTHER.get(name, (name.replace("_", " "), "", 1))


def _row(machine: Machine, s: Stated, homes: Mapping[str, str | None]) -> WordsRow:
    label, unit, scale = _words(_kind(s.place), s.name)
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
        slot = next(iter(_of_template(machine, _TEMPLATES[s.place])), None)
        return slot is None or (slot.fitted is None and not slot.looked)
    if s.name in ("soldered_gb", "soldered_mts"):
        return not machine.memory.soldered or bool(s.configuration)
    if s.name == "form":
        return not _of_template(machine, _TEMPLATES[s.place]) or machine.draft
    if _kind(s.place) == "step":
        return not machine.obstacles
    return True


def _of_template(machine: Machine, template: str) -> list[Slot]:
    forms = {"m2_drive": "m2", "msata": "mini", "emmc": "soldered"}
    if template in forms:
        return [s for s in machine.slots if isinstance(s, DriveSlot) and s.form == forms[template]]
    return [s for s in machine.slots if s.kind == template]


def _homes(machine: Machine, spec: Spec, places: Mapping[str, str]) -> dict[str, str | None]:
    """The slot each place of the page is: an id, NEW for one to be drawn, None where somebody has to say."""
    named = sorted({s.place for s in spec.stated if s.place.startswith("drive-")})
    there = [s.id for s in _of_template(machine, "m2_drive")]
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
    for place, template in _TEMPLATES.items():
        if place != "drive" and any(s.place == place and not (s.name == "count" and s.value == 0) for s in spec.stated):
            homes[place] = next((s.id for s in _of_template(machine, template)), NEW)
    return homes


def _now(machine: Machine, s: Stated, homes: Mapping[str, str | None]) -> str:
    """What the library says there now, in the same words."""
    if s.name == "count":
        template = "m2_drive" if s.place == "m2_drive" else _TEMPLATES[s.place]
        count = len(_of_template(machine, template))
        return str(count) if count else ""
    if s.about == "memory.sockets":
        count = len(_of_template(machine, "memory"))
        return str(count) if count else ""
    if s.about == "memory.soldered_gb":
        laid = _laid(machine, s.configuration)
        return "; ".join(str(c.capacity_gb) for c in laid.memory.soldered) if laid else ""
    if s.about == "processor.name":
        found = _configuration(machine, s.value)
        return s.value if found else ""
    if _kind(s.place) == "step":
        step = next((o for o in machine.obstacles if o.id == s.place), None)
        return shown(getattr(step, s.name)) if step and getattr(step, s.name) else ""
    laid = _laid(machine, s.configuration)
    if laid is None:
        return ""
    target: Any = laid.memory if s.place == "memory" else None
    name = s.name
    if s.place == "memory" and s.name in _SOCKETS:
        target, name = next((x for x in laid.slots if isinstance(x, MemorySlot)), None), _SOCKETS[s.name]
    elif home := homes.get(s.place):
        target = next((x for x in laid.slots if x.id == home), None)
    _, _, scale = _words(_kind(s.place), s.name)
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


def _configuration(machine: Machine, named: str) -> Configuration | None:
    """The configuration a page's heading or processor names."""
    wanted = folded(named)
    for c in machine.configurations:
        processor = folded(c.processor)
        if processor and processor != "unknown" and (processor.endswith(wanted) or wanted.endswith(processor)):
            return c
        name = folded(c.name)
        several = len(machine.configurations) > 1 and name
        if name == wanted or (several and (wanted.endswith(name) or name.endswith(wanted))):
            return c
    return None


def _laid(machine: Machine, named: str) -> Any:
    found = _configuration(machine, named) if named else machine.configurations[0]
    return machine.configured(found.id) if found else None


class _Writer:
    """Writes claims into a machine's data."""

    def __init__(self, data: dict[str, Any], machine: Machine, where: str) -> None:
        self.data, self.machine, self.where = data, machine, where
        self.made: dict[str, str] = {}

    def write(self, s: Stated, homes: Mapping[str, str | None]) -> None:
        match _kind(s.place):
            case "processor":
                self._processor(s)
            case "memory":
                self._memory(s)
            case "m2_drive":
                self._draw("m2_drive", s.value)
            case "step":
                self._step(s)
            case _:
                self._slot(s, homes)

    # -- configurations ---------------------------------------------------------------------------------
    def _configured(self, named: str) -> dict[str, Any]:
        """The configuration's data; one the library lacks is begun, with what its heading says."""
        found = _configuration(Machine.model_validate(self.data), named)
        rows: list[dict[str, Any]] = self.data["configurations"]
        if found:
            return next(c for c in rows if c["id"] == found.id)
        processor = named if PROCESSOR_NAME.fullmatch(named) else "unknown"
        if len(rows) == 1 and rows[0]["processor"] in ("", "unknown") and processor != "unknown":
            rows[0]["processor"] = processor
            return rows[0]
        taken = {c["id"] for c in rows}
        wanted = slug(named)
        while wanted in taken:
            wanted += "-2"
        name = self.data["name"] if processor != "unknown" else named
        rows.append({"id": wanted, "name": name, "processor": processor, "marks": [], "differs": {}})
        return rows[-1]

    def _processor(self, s: Stated) -> None:
        if s.name == "name":
            self._configured(s.value)
        elif s.name == "cores":
            named = s.configuration or (
                self.data["configurations"][0]["processor"] if len(self.data["configurations"]) == 1 else ""
            )
            if named and not (c := self._configured(named)).get("cores"):
                c["cores"] = s.value

    # -- facts ------------------------------------------------------------------------------------------
    def _claim(self, s: Stated, value: Any, more: Mapping[str, Any] | None = None) -> dict[str, Any]:
        note = f"{self.where}: “{s.phrase}”" if self.where else f"“{s.phrase}”"
        return {"value": value, "source": "documented", "note": note[:300], **(more or {})}

    def _fact(self, place: str, name: str, s: Stated, value: Any, more: Mapping[str, Any] | None = None) -> None:
        """One claim more on an attribute, of every configuration or of one."""
        target = self.data["memory"] if place == "memory" else next(x for x in self.data["slots"] if x["id"] == place)
        claim = self._claim(s, value, more)
        if not s.configuration:
            target[name] = _with(target.get(name), claim)
            for c in self.data["configurations"]:  # what differs there stands beside it
                if name in c.get("differs", {}).get(place, {}):
                    c["differs"][place][name] = _with(c["differs"][place][name], claim)
            return
        differs = self._configured(s.configuration).setdefault("differs", {}).setdefault(place, {})
        differs[name] = _with(differs[name] if name in differs else target.get(name), claim)

    def _memory(self, s: Stated) -> None:
        if s.name == "sockets":
            self._draw("memory", s.value)
        elif s.name in _SOCKETS:
            for slot in [x["id"] for x in self.data["slots"] if x["kind"] == "memory"]:
                self._fact(slot, _SOCKETS[s.name], s, s.value)
        elif s.name in ("soldered_gb", "soldered_mts"):
            self._soldered(s)
        elif s.name == "speed_by_modules":
            modules, _, rate = s.value.partition(":")
            if s.configuration:
                differs = self._configured(s.configuration).setdefault("differs", {}).setdefault("memory", {})
                rates = differs.setdefault("speed_by_modules", dict(self.data["memory"].get("speed_by_modules", {})))
            else:
                rates = self.data["memory"].setdefault("speed_by_modules", {})
            rates[modules] = _with(rates.get(modules), self._claim(s, int(rate)))
        else:
            self._fact("memory", s.name, s, s.value)

    def _soldered(self, s: Stated) -> None:
        holder = self.data["memory"]
        if s.configuration:
            holder = self._configured(s.configuration).setdefault("differs", {}).setdefault("memory", {})
        chips = holder.setdefault("soldered", [])
        if s.name == "soldered_gb" and not chips:
            chips.append({"capacity_gb": s.value})
        elif s.name == "soldered_mts" and len(chips) == 1 and not chips[0].get("rated_mts"):
            chips[0]["rated_mts"] = s.value

    # -- slots ------------------------------------------------------------------------------------------
    def _draw(self, template: str, count: int) -> None:
        have = len(_of_template(Machine.model_validate(self.data), template))
        for _ in range(max(0, count - have)):
            self._new(template)

    def _new(self, template: str) -> str:
        slot = slot_from(template, self.data["slots"], self.data["width_mm"])
        self.data["slots"].append(slot)
        self.data["depth_mm"] = max(self.data["depth_mm"], slot["place"]["y_mm"] + slot["place"]["h_mm"] + 15)
        return str(slot["id"])

    def _slot(self, s: Stated, homes: Mapping[str, str | None]) -> None:
        home = self._home(s.place, homes)
        if s.name in ("count",):
            return
        slot = next(x for x in self.data["slots"] if x["id"] == home)
        if s.name == "form":
            slot["form"] = s.value
        elif s.name in ("standard", "streams"):
            self._as_delivered(slot, "radio", s, {s.name: s.value})
        elif s.name == "design_mwh":
            self._as_delivered(slot, "battery", s, {"design_mwh": s.value})
        elif s.name == "accepts":
            self._fact(home, "accepts", s, [s.value], {"among_others": True})
        elif s.name == "standoffs_mm":
            self._fact(home, s.name, s, s.value, {"among_others": True})
        elif s.name == "mini_sizes":
            self._fact(home, s.name, s, [s.value], {"among_others": True})
        else:
            self._fact(home, s.name, s, s.value)

    def _home(self, place: str, homes: Mapping[str, str | None]) -> str:
        home = homes[place]
        if home != NEW:
            return str(home)
        if place not in self.made:
            template = _TEMPLATES[_kind(place)]
            drawn = [x.id for x in _of_template(Machine.model_validate(self.data), template)]
            free = [d for d in drawn if d not in self.made.values() and d not in homes.values()]
            self.made[place] = free[0] if free else self._new(template)
        return self.made[place]

    def _as_delivered(self, slot: dict[str, Any], kind: str, s: Stated, fields: Mapping[str, Any]) -> None:
        """A part the page describes and does not name: it goes by the machine's own name."""
        if slot.get("fitted") is None and not slot.get("looked", True):
            number = f"{self.data['id']}-{'pack' if kind == 'battery' else kind}"
            slot["fitted"] = {
                "kind": kind,
                "number": number,
                "name": f"{_PLACE_NAMES[kind]} as the maker describes it",
                "note": f"“{s.phrase}”"[:300],
            }
            slot["looked"] = True
        fitted = slot["fitted"]
        if fitted["number"].startswith(f"{self.data['id']}-"):
            fitted.update(fields)

    # -- the way in -------------------------------------------------------------------------------------
    def _step(self, s: Stated) -> None:
        steps: list[dict[str, Any]] = self.data["obstacles"]
        ident = s.place
        step = next((o for o in steps if o["id"] == ident), None)
        if step is None:
            if s.name != "what":
                return  # nothing is known of what comes off
            name = {"cable": "Cable", "part": "Part on the way"}.get(s.value, str(s.value).capitalize())
            step = {
                "id": ident,
                "what": s.value,
                "name": name,
                "hint": s.phrase[:300],
                "after": [steps[-1]["id"]] if steps else [],
            }
            steps.append(step)
            if s.value == "cable" and any(w in s.phrase.lower() for w in ("batter", "akku")):
                self.data["power_off"] = ident
                step["name"] = "Battery cable"
            return
        step[s.name] = s.value


def _with(claims: Any, claim: dict[str, Any]) -> list[Any]:
    """Claims with one more, unless it stands there."""
    kept: Iterable[Any] = claims if isinstance(claims, list) else [] if claims is None else [claims]
    kept = list(kept)
    same = any(
        isinstance(k, dict) and (k.get("value"), k.get("source")) == (claim["value"], claim["source"]) for k in kept
    )
    return kept if same else [*kept, claim]
