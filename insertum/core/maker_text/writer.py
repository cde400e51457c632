"""Taken statements written into a machine's file, claim by claim."""

from collections.abc import Iterable, Mapping
from typing import Any

from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import CellularSlot, DriveSlot, RadioSlot
from ..machine.memory_system import MemorySystem
from ..machine.shape import Machine
from ..survey.draft import slot_from, slug
from .homes import PLACE_NAMES, configuration_of, kind_of_place, of_template
from .shape import Stated
from .terms import PROCESSOR_NAME

TEMPLATES = {
    "drive": "m2_drive",
    "bay": "bay",
    "msata": "msata",
    "emmc": "emmc",
    "radio": "radio",
    "cellular": "cellular",
    "battery": "battery",
}


SHAPES: dict[str, type[Any]] = {
    "memory": MemorySystem, "drive": DriveSlot, "msata": DriveSlot, "emmc": DriveSlot, "bay": BaySlot, "radio": RadioSlot,
    "cellular": CellularSlot, "battery": BatterySlot,
}  # fmt: skip


#: What has no attribute in the shape: label, unit, scale.
OTHER = {
    "soldered_gb": ("On the board", "GB", 1), "soldered_mts": ("Its chips' rate", "MT/s", 1), "sockets": ("Sockets", "", 1),
    "generation": ("Generation", "", 1), "socket_limit_gb": ("A socket takes at most", "GB", 1), "count": ("How many", "", 1),
    "form": ("How it gets in", "", 1), "standard": ("Wi-Fi standard", "", 1), "streams": ("Streams", "", 1),
    "design_mwh": ("Energy", "Wh", 1000), "options": ("Sold with", "Wh", 1000), "name": ("Named", "", 1), "cores": ("Cores", "", 1),
    "speed_by_modules": ("Rate by modules", "MT/s", 1), "what": ("What comes off", "", 1), "screws": ("Screws", "", 1),
    "tool": ("Tool", "", 1), "length_mm": ("Screw length", "mm", 1), "captive": ("Captive", "", 1),
}  # fmt: skip


#: Said of memory's sockets, each of them.
SOCKETS = {"generation": "generation", "socket_limit_gb": "limit_gb"}


NEW = "new"


class Writer:
    """Writes claims into a machine's data."""

    def __init__(self, data: dict[str, Any], machine: Machine, where: str) -> None:
        self.data, self.machine, self.where = data, machine, where
        self.made: dict[str, str] = {}

    def write(self, s: Stated, homes: Mapping[str, str | None]) -> None:
        match kind_of_place(s.place):
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
        found = configuration_of(Machine.model_validate(self.data), named)
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
        elif s.name in SOCKETS:
            for slot in [x["id"] for x in self.data["slots"] if x["kind"] == "memory"]:
                self._fact(slot, SOCKETS[s.name], s, s.value)
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
        have = len(of_template(Machine.model_validate(self.data), template))
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
            template = TEMPLATES[kind_of_place(place)]
            drawn = [x.id for x in of_template(Machine.model_validate(self.data), template)]
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
                "name": f"{PLACE_NAMES[kind]} as the maker describes it",
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
