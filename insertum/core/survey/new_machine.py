"""A machine started inside the job where it turned up: what labels say and what is seen becomes a draft of the library.

Nothing is known but what was typed, seen or read; everything else stays unknown and is asked when it decides something.
"""

import re
from collections.abc import Collection, Iterable, Mapping, Sequence
from typing import Annotated, Any

from pydantic import AfterValidator, Field, model_validator

from ..errors import Code, InputError
from ..frozen import Frozen
from ..identify.library import Library
from ..machine.attribute import attributes_of
from ..machine.memory_system import MemorySystem
from ..machine.opening import Mark
from ..machine.part import AnyPart
from ..machine.shape import Machine
from ..reading import Reading
from ..spelling import folded
from .draft import TEMPLATES, blank_machine, from_reading, slot_from, slug, soldered_of

Count = Annotated[int, Field(ge=0, le=8)]


def _a_word(text: str) -> str:
    """Padding gone; to be seen, and with a letter or digit in it where there is anything."""
    text = " ".join(text.split(" ")).strip()
    if text and not (text.isprintable() and any(ch.isalnum() for ch in text)):
        raise ValueError("letters and digits that can be seen, as they stand on the label")
    return text


Word = Annotated[str, Field(max_length=80), AfterValidator(_a_word)]


class Started(Frozen):
    """What somebody says of a machine the library lacks. ``seen`` counts places by template; ``of`` names a machine of
    the library whose shell this is, in another configuration."""

    maker: Word = ""
    name: Word = ""
    processor: Word = ""
    marks: tuple[Mark, ...] = Field((), max_length=20)
    seen: dict[str, Count] = {}
    of: str = ""

    @model_validator(mode="after")
    def _marks_that_identify(self) -> "Started":
        for m in self.marks:
            if not m.text.strip() or len(m.text) > 100 or not _a_word(m.text):
                raise ValueError("a mark has 1 to 100 characters, as they stand on the label")
        return self


class Offered(Frozen):
    """What can be filled in before anybody types: from the reading and the labels."""

    maker: str
    name: str
    processor: str
    marks: tuple[Mark, ...]
    seen: dict[str, int]
    templates: dict[str, str]
    shells: dict[str, str]


#: What of a slot follows from the processor, and so holds for no other one.
_PROCESSORS = ("limit_gb", "pcie_generation", "cnvi", "host_generation")
#: One word with a digit in it: a code.
_CODE = re.compile(r"(?=.*\d)[A-Za-z0-9]+(?:[-./][A-Za-z0-9]+)*$")


def offered(texts: Sequence[str], reading: Reading | None, library: Library, near: Sequence[str] = ()) -> Offered:
    """Fill the form in as far as texts and reading go. ``near`` are machines whose shell it may be."""
    makers = {folded(m.maker): m.maker for m in library.machines}
    maker = name = processor = ""
    marks: list[Mark] = []
    if reading:
        maker, name, processor = reading.maker, reading.system, re.sub(r"\s*@.*$", "", reading.processor).strip()
        marks += [Mark(kind=k, text=t) for k, t in (("board", reading.board),) if t]
    for text in (t.strip() for t in texts if t.strip()):
        kind = _kind_of(text, library, makers)
        words = text.split()
        if kind == "family" and not name:
            known = makers.get(folded(words[0]))
            maker, name = (maker or known or words[0]), " ".join(words[1:]) or text
        elif kind == "processor" and not processor:
            processor = text
        elif not any(folded(m.text) == folded(text) for m in marks):
            marks.append(Mark(kind=kind, text=text))
    drawn = from_reading(reading)["slots"] if reading else []
    seen = {t: sum(_template_of(s) == t for s in drawn) for t in TEMPLATES}
    names = {m.id: f"{m.maker} {m.name}" for m in library.machines}
    return Offered(
        maker=maker, name=name, processor=processor, marks=tuple(marks), seen=seen,
        templates={t: label for t, (label, _) in TEMPLATES.items()},
        shells={m: names[m] for m in dict.fromkeys(near) if m in names},
    )  # fmt: skip


def _kind_of(text: str, library: Library, makers: Mapping[str, str]) -> str:
    """What sort of mark a text looks like: a known maker first is a name, a known processor's make-up a processor, one
    word with digits in it a code; else a name."""
    words = text.split()
    if len(words) > 1 and folded(words[0]) in makers:
        return "family"
    processors = {folded(c.processor.split()[0]) for _, c in library.every if c.processor}
    processors |= {folded(c.processor.split()[1]) for _, c in library.every if len(c.processor.split()) > 1}
    if len(words) > 1 and any(folded(w) in processors for w in words[:2]) and re.search(r"\d", text):
        return "processor"
    return "product" if _CODE.fullmatch(text) else "family"


def _template_of(slot: Mapping[str, Any]) -> str:
    if slot["kind"] == "m2_drive":
        return {"mini": "msata", "soldered": "emmc"}.get(slot.get("form", "m2"), "m2_drive")
    return str(slot["kind"])


def started(
    said: Started,
    reading: Reading | None,
    parts: Iterable[AnyPart],
    taken: Collection[str],
    shell: Machine | None = None,
) -> tuple[dict[str, Any], str]:
    """The machine as a draft and the id of its configuration. Raises :class:`InputError` without a name."""
    if shell is not None:
        return _another(said, shell, reading)
    maker, name = said.maker, said.name
    if not maker or not name:
        raise InputError("a machine needs its maker and its name", "start", "Type what the lid says.")
    data = from_reading(reading, parts) if reading else blank_machine(maker, name)
    data |= {"maker": maker, "name": name, "id": _free(slug(f"{maker} {name}"), taken), "draft": True}
    named = [{"kind": "family", "text": f"{maker} {name}"}, *(m.model_dump(mode="json") for m in said.marks)]
    data["marks"] = _once([*data["marks"], *named]) if reading else _once(named)
    configuration = data["configurations"][0]
    configuration["name"] = name
    if said.processor:
        configuration |= {"processor": said.processor, "id": slug(said.processor)}
        configuration["marks"] = _once([*configuration.get("marks", []), {"kind": "processor", "text": said.processor}])
    _see(data, said.seen)
    return data, str(configuration["id"])


def _another(said: Started, shell: Machine, reading: Reading | None) -> tuple[dict[str, Any], str]:
    """Another configuration of a known shell. Where its configurations differ from one another this one is unknown:
    what holds for them holds for nobody else."""
    data = shell.model_dump(mode="json")
    if not said.processor:
        raise InputError("a configuration is told by its processor", "start", "Type it, or take it from the label.")
    own = [m.model_dump(mode="json") for m in said.marks] + [{"kind": "processor", "text": said.processor}]
    # What is delivered in it nobody has said; how much memory runs how fast, and how fast its links are, its processor says.
    open_: dict[str, dict[str, Any]] = {s.id: {"fitted": None, "looked": False} for s in shell.slots}
    for s in shell.slots:
        open_[s.id] |= {name: None for name in _PROCESSORS if name in attributes_of(type(s))}
    open_["memory"] = dict.fromkeys(attributes_of(MemorySystem)) | {"speed_by_modules": {}}
    for c in shell.configurations:
        for place, patch in c.differs.items():
            for name in patch:
                if name not in ("soldered", "kind"):
                    open_.setdefault(place, {})[name] = None
    if any(shell.configured(c.id).memory.soldered for c in shell.configurations):
        # How much is on the board of this one has no word for "unknown": it is read, or not begun so.
        open_["memory"]["soldered"] = _soldered(reading)
    ids = [c.id for c in shell.configurations]
    fresh = {
        "id": _free(slug(said.processor), ids), "name": said.name or shell.name, "processor": said.processor,
        "marks": _once(own), "differs": {place: patch for place, patch in open_.items() if patch},
    }  # fmt: skip
    data["configurations"] = [*data["configurations"], fresh]
    return data, str(fresh["id"])


def _soldered(reading: Reading | None) -> list[dict[str, Any]]:
    """What the reading proves to be on the board. Raises where it does not tell all of it."""
    modules = reading.modules if reading and reading.memory_mb is not None else ()
    if not modules or any(m.soldered is None or (m.soldered and not m.size_gb) for m in modules):
        raise InputError(
            "this shell has memory on its board, and nothing tells how much this one has", "start",
            "Drop its reading first, or start it as a machine of its own.",
        )  # fmt: skip
    return soldered_of(m for m in modules if m.soldered)


def _see(data: dict[str, Any], seen: Mapping[str, int]) -> None:
    """As many places of each template as were counted; those a reading drew count too."""
    for template, count in seen.items():
        if template not in TEMPLATES:
            raise InputError(
                f"no template {template!r}", "start", f"There are {', '.join(TEMPLATES)}.", code=Code.MISSING
            )
        have = sum(_template_of(s) == template for s in data["slots"])
        for _ in range(max(0, count - have)):
            data["slots"].append(slot_from(template, data["slots"], data["width_mm"]))
    ends = [s["place"]["y_mm"] + s["place"]["h_mm"] for s in data["slots"]]
    data["depth_mm"] = max(data["depth_mm"], max(ends, default=0) + 15)


def _free(wanted: str, taken: Collection[str]) -> str:
    found, n = wanted, 2
    while found in taken:
        found, n = f"{wanted}-{n}", n + 1
    return found


def _once(marks: Iterable[dict[str, Any]]) -> list[dict[str, Any]]:
    found: dict[tuple[str, str], dict[str, Any]] = {}
    for m in marks:
        found.setdefault((m["kind"], folded(m["text"])), m)
    return list(found.values())
