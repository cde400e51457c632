"""The answer to a question without a job: verdicts with their reasons, a machine's places, a part's machines."""

from collections.abc import Iterable, Sequence
from itertools import groupby

from ..fit.judge import kind_fits
from ..frozen import Frozen
from ..job.fit_desk import FitDesk
from ..job.slots import map_view, soldered_lines
from ..kinds.all import kind_of
from ..machine.attribute import listed, lowered
from ..machine.part import Fittable
from ..verdict import Finding, Verdict

#: Best buys shown of a place.
MOST_BUYS = 3


class Seat(Frozen):
    """A part in the places of a machine that take it alike. ``configurations`` are named where they differ."""

    part: str
    name: str
    verdict: Verdict
    places: tuple[str, ...]
    findings: tuple[Finding, ...]
    accessories: tuple[str, ...]
    extra_minor: int
    price_minor: int | None
    short: str = ""
    configurations: tuple[str, ...] = ()


class Buy(Frozen):
    """A part of the catalogue that goes in and adds to what is there, of those that add most."""

    part: str
    name: str
    verdict: Verdict
    price_minor: int | None


class PlaceSays(Frozen):
    """Places of a machine that are alike: what they take, what is in each as delivered, and what adds most there.
    Where nothing that is known to go in adds anything, ``waiting`` are the parts that would and wait for a look.
    ``configurations`` are named where they differ."""

    slots: tuple[str, ...]
    name: str
    kind: str
    takes: str
    holds: str
    buys: tuple[Buy, ...]
    waiting: int = 0
    configurations: tuple[str, ...] = ()


def seats(desks: Sequence[FitDesk], parts: Sequence[Fittable]) -> tuple[Seat, ...]:
    """Parts in every place made for them, in each configuration meant: what is said alike is said once. The best verdict
    of a part is first, and of parts the one with the best verdict, then the cheapest."""
    found: list[Seat] = []
    called = _called(desks)
    for part in parts:
        rows = [seat for desk, name in zip(desks, called, strict=True) for seat in _of(desk, part, name)]
        if not rows:
            continue
        by_what: dict[object, list[Seat]] = {}
        for row in rows:
            by_what.setdefault((row.places, row.verdict, _said(row.findings), row.accessories), []).append(row)
        for alike in by_what.values():
            named = tuple(c for row in alike for c in row.configurations)
            found.append(alike[0].model_copy(update={"configurations": () if set(named) == set(called) else named}))
    found.sort(key=lambda s: parts_order(parts, s.part))
    of_part = [sorted(g, key=lambda s: s.verdict.rank) for _, g in groupby(found, key=lambda s: s.part)]
    of_part.sort(key=lambda rows: (rows[0].verdict.rank, rows[0].price_minor is None, rows[0].price_minor or 0))
    return tuple(s for rows in of_part for s in rows)


def _called(desks: Sequence[FitDesk]) -> list[str]:
    """A name for each configuration that no other one has: two of one name differ by their processor, else by their id."""
    every = [d.configured.configuration for d in desks]
    names = [c.name for c in every]
    named = [c.name if names.count(c.name) == 1 else f"{c.name}, {c.processor}" for c in every]
    return [n if named.count(n) == 1 else f"{n} ({c.id})" for n, c in zip(named, every, strict=True)]


def parts_order(parts: Sequence[Fittable], number: str) -> int:
    """Where a part stands among those asked about."""
    return next(i for i, p in enumerate(parts) if p.number == number)


def _said(findings: Iterable[Finding]) -> tuple[str, ...]:
    return tuple(f.says for f in findings)


def _decides(seat: Seat) -> str:
    """The finding that makes the verdict what it is, in its own words; "" where none objects."""
    return next((f.says for f in seat.findings if f.verdict is seat.verdict), "")


def _spoken(verdict: Verdict, findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """What is said with a verdict: of a part that does not go in only why, and not how it would run."""
    refused = verdict.rank > Verdict.MEASURE_FIRST.rank
    return tuple(f for f in findings if f.verdict.rank > Verdict.MEASURE_FIRST.rank) if refused else findings


def _of(desk: FitDesk, part: Fittable, called: str) -> Iterable[Seat]:
    """One configuration: places that say the same are one row."""
    made_for = kind_of(part).slots
    judged = [
        (s, desk.judged_in(s.id, part)) for s in desk.configured.slots if s.kind in made_for and kind_fits(s, part)
    ]
    by_what: dict[object, list[int]] = {}
    for i, (_, j) in enumerate(judged):
        if j.verdict is not None:
            by_what.setdefault((j.verdict, _said(j.findings), j.accessories), []).append(i)
    for alike in by_what.values():
        j = judged[alike[0]][1]
        assert j.verdict is not None
        yield Seat(
            part=part.number, name=part.name, verdict=j.verdict, places=tuple(judged[i][0].name for i in alike),
            findings=_spoken(j.verdict, j.findings), accessories=tuple(desk.by_number[a].name for a in j.accessories if a in desk.by_number),
            extra_minor=j.extra_minor, price_minor=part.price_minor, short=j.short,
            configurations=(called,),
        )  # fmt: skip


def places(desk: FitDesk, kind: str = "") -> tuple[PlaceSays, ...]:
    """The places of one configuration, those for a ``kind`` of part alone where one is asked about."""
    drawn = {v.id: v for v in map_view(desk.build, {}, desk.how_known()).slots}
    best = {k: desk.best_rows(k, MOST_BUYS * 4) for k in desk.parts.by_kind if not kind or k == kind}
    found = []
    for slot in desk.configured.slots:
        mine = [k for k, parts in desk.parts.by_kind.items() if k in best and parts and kind_fits(slot, parts[0])]
        if kind and not mine:
            continue
        rows = [row for k in mine for row in best[k] if kind_of(row.part).adds(desk.build, slot.id, row.part)[0] > 0]
        cells = [(row, c) for row in rows for c in row.cells if c.slot == slot.id and c.verdict.usable]
        buys = tuple(
            Buy(part=row.part.number, name=row.part.name, verdict=c.verdict, price_minor=row.part.price_minor)
            for row, c in cells[:MOST_BUYS]
        )
        view = drawn[slot.id]
        found.append(
            PlaceSays(
                slots=(slot.id,),
                name=slot.name,
                kind=slot.kind,
                takes=view.summary,
                holds=view.fitted_name,
                buys=buys,
                waiting=0 if buys else sum(desk.waiting(slot.id, k) for k in mine),
            )  # fmt: skip
        )
    return tuple(_alike(found))


def _alike(found: Iterable[PlaceSays]) -> Iterable[PlaceSays]:
    """Places of which everything said is the same, as one."""
    by_what: dict[object, list[PlaceSays]] = {}
    for p in found:
        by_what.setdefault((p.kind, p.takes, p.holds, p.buys, p.waiting), []).append(p)
    for same in by_what.values():
        yield same[0].model_copy(
            update={"slots": tuple(s for p in same for s in p.slots), "name": ", ".join(p.name for p in same)}
        )


def places_of(desks: Sequence[FitDesk], kind: str = "") -> tuple[PlaceSays, ...]:
    """The places of each configuration meant: what is said alike of all is said once, the rest with whose it is."""
    by_what: dict[PlaceSays, list[str]] = {}
    for desk, name in zip(desks, _called(desks), strict=True):
        for place in places(desk, kind):
            by_what.setdefault(place, []).append(name)
    order = list(dict.fromkeys(p.name for p in by_what))
    return tuple(
        p.model_copy(update={"configurations": () if len(names) == len(desks) else tuple(names)})
        for p, names in sorted(by_what.items(), key=lambda said: order.index(said[0].name))
    )


def ceilings_of(desks: Sequence[FitDesk]) -> tuple[str, ...]:
    """What bounds each configuration: with its name where it is not so of all."""
    each = [ceilings(desk) for desk in desks]
    named = zip(_called(desks), each, strict=True)
    own = [f"{name}. {line}" for name, lines in named for line in lines if not all(line in other for other in each)]
    return (*own, *(line for line in each[0] if all(line in other for other in each)))


def ceilings(desk: FitDesk) -> tuple[str, ...]:
    """What bounds the whole machine: memory in all, and what is on the board."""
    known = desk.build.known
    total = known.limit("memory", "total_limit_gb")
    lines = []
    if known.sockets:
        if total.value is not None:
            lines.append(f"Memory: {total.value} GB in all.")
        else:
            more = f"{total.at_least} GB run; how much more is not known." if total.at_least else "not known."
            lines.append(f"Memory in all: {more}")
    return (*lines, *soldered_lines(desk.build))


def says(found: Sequence[Seat], part: str, machine: str) -> str:
    """The answer in one sentence, for one part: yes, no, or what it waits for."""
    if not found:
        return f"No: no place for {part} is known in {machine}."
    best = min(s.verdict.rank for s in found)
    good = [s for s in found if s.verdict.rank == best]
    where = listed(list(dict.fromkeys(p for s in good for p in s.places)))
    only = {c for s in good for c in s.configurations}
    of = f" of the {listed(sorted(only))}" if only else ""
    match good[0].verdict:
        case Verdict.SEATS:
            line = f"Yes: {part} seats in {where}{of}."
        case Verdict.HELD_BACK:
            line = f"Yes, held back: {part} goes in {where}{of}. {_decides(good[0])}"
        case Verdict.MEASURE_FIRST:
            open_ = listed(
                list(dict.fromkeys(lowered(f.label) for s in good for f in s.findings if f.how or f.attribute))
            )
            line = (
                f"Not known yet for {where}{of}: settle {open_} first." if open_ else f"Not known yet for {where}{of}."
            )
        case _:
            line = f"No: {_decides(good[0])}"
    # One that names no row of its own has no such place at all.
    return f"{line} It differs by configuration." if any(s.configurations for s in found) else line
