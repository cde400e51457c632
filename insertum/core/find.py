"""Find: what a scanned or typed text means. One resolver for every field that takes a label.

In this order: the exact number of a part, a job, a machine's own code or name, a label that decodes, likeness. The
first of the first four that names one thing alone is *sure* and may be opened; likeness is only ever shown.
"""

import re
from collections.abc import Iterable, Sequence
from typing import Any, Literal, NamedTuple
from urllib.parse import quote

from .decode import decode
from .errors import InputError
from .frozen import Frozen
from .identify.identify import identify
from .identify.library import Library
from .machine.part import AnyPart
from .spelling import folded
from .standards.module_label import has_code

#: How many of each kind likeness shows.
_SHOWN = 8
_LONGEST = 300


class Listed(NamedTuple):
    """A part with what it is found by, folded once."""

    part: AnyPart
    number: str
    fru: str
    folded_number: str
    folded_fru: str
    words: str


def listed(parts: Iterable[AnyPart]) -> list[Listed]:
    """Parts ready to be found: made once for a catalogue."""
    return [
        Listed(p, p.number, fru, folded(p.number), folded(fru), f"{folded(p.number)} {folded(p.name)}")
        for p in parts
        for fru in [getattr(p, "fru", None) or ""]
    ]


class JobNamed(Frozen):
    """A job as far as it is found by words."""

    number: int
    title: str = ""
    customer: str = ""


class Found(Frozen):
    """One thing that was found. ``sure`` is the one thing the text can mean."""

    kind: Literal["part", "machine", "job", "label"]
    title: str
    detail: str
    link: str
    sure: bool = False


class Findings(Frozen):
    """What was found, the surest first; ``decoded`` is what the text says as a label, ``problem`` why it is none."""

    found: tuple[Found, ...]
    decoded: dict[str, Any] | None
    problem: str

    @property
    def sure(self) -> Found | None:
        return next((f for f in self.found if f.sure), None)


def find(text: str, parts: Sequence[Listed], jobs: Sequence[JobNamed], library: Library) -> Findings:
    """Resolve a text. Links lead to the pages of the web application."""
    text = " ".join(text.split())[:_LONGEST]
    wanted = folded(text)
    try:
        decoded, problem = decode(text), ""
    except InputError as error:
        decoded, problem = None, str(error)
    if len(wanted) < 2 and not text.isdigit():
        return Findings(found=(), decoded=None, problem=problem)
    exact = [_part(p.part) for p in parts if _is_number(p, text)] or [
        _part(p.part) for p in parts if _is_number(p, wanted)
    ]
    tiers = [exact, [_job(j) for j in jobs if j.number == job_number(text)], _machines_by_code(wanted, library)]
    if decoded is not None:
        link = f"/gauges?gauge={decoded['kind']}&text={_quoted(text)}"  # a gauge has the name of what it reads
        tiers.append([Found(kind="label", title=f"Read as a {_label_name(decoded)}", detail=text, link=link)])
    found: list[Found] = []
    for tier in tiers:
        # A sure thing behind several others is not sure, and words of a seller's are a search as well as a label.
        if len(tier) == 1 and not found and not (tier[0].kind == "label" and not _standard(text, decoded)):
            tier = [tier[0].model_copy(update={"sure": True})]
        found += tier
    found += _alike(text, wanted, parts, jobs, library)
    unique = {f.link: f for f in reversed(found)}  # the surest of one thing stays
    kept = dict.fromkeys(f.link for f in found)
    return Findings(found=tuple(unique[link] for link in kept), decoded=decoded, problem=problem)


def _is_number(p: Listed, text: str) -> bool:
    return text in (p.number, p.folded_number) or bool(p.fru and text in (p.fru, p.folded_fru))


def job_number(text: str) -> int | None:
    """'147', 'job 147', '#147', or the address a printed code leads to."""
    found = re.fullmatch(r"(?:job\s*|#\s*|https?://\S{1,200}/jobs/)?(\d{1,9})(?:/\w*)?", text, re.IGNORECASE)
    return int(found[1]) if found else None


def _machines_by_code(wanted: str, library: Library) -> list[Found]:
    """Configurations that carry the whole text as a mark or a name; where all of one machine do, the machine."""
    by_machine: dict[str, list[int]] = {}
    for i in sorted(library.named(wanted)):
        by_machine.setdefault(library.every[i][0].id, []).append(i)
    found = []
    for of in by_machine.values():
        machine = library.every[of[0]][0]
        # A name that every configuration has is the machine's: its first page leads to the others.
        shown = of[:1] if len(of) == len(machine.configurations) else of
        found += [_machine(library, i) for i in shown]
    return found


def _machine(library: Library, i: int) -> Found:
    m, c = library.every[i]
    return Found(kind="machine", title=f"{m.maker} {c.name}", detail=c.processor, link=f"/machines/{m.id}/{c.id}")


def _part(p: AnyPart) -> Found:
    return Found(kind="part", title=p.name, detail=p.number, link=f"/parts?number={_quoted(p.number)}")


def _job(j: JobNamed) -> Found:
    return Found(kind="job", title=f"{j.number} {j.title}".strip(), detail=j.customer, link=f"/jobs/{j.number}")


def _standard(text: str, decoded: dict[str, Any] | None) -> bool:
    """Does the text carry a standard's own code, which nobody types to search by?"""
    return decoded is not None and (decoded["kind"] == "m2_code" or has_code(text))


def _label_name(decoded: dict[str, Any]) -> str:
    return str(decoded["kind"]).replace("_", " ").replace("m2", "M.2")


def _quoted(text: str) -> str:
    return quote(text, safe="")


def _alike(text: str, wanted: str, parts: Sequence[Listed], jobs: Sequence[JobNamed], library: Library) -> list[Found]:
    if len(wanted) < 2:
        return []
    found = [_part(p.part) for p in parts if wanted in p.words][:_SHOWN]
    ranked = identify([text], library)
    names = {name: i for i, name in enumerate(library.names)}
    found += [_machine(library, names[name]) for name in ranked.remaining[:_SHOWN]]
    return found + [_job(j) for j in jobs if wanted in folded(f"{j.customer} {j.title}")][:_SHOWN]
