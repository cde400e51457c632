"""What fits a machine without a job: the same desk, laid out for a configuration and thrown away afterwards."""

import csv
import io
from typing import Literal

from ...core.ask.answer import ceilings
from ...core.comparison.side_by_side import Comparison
from ...core.errors import Code, InputError
from ...core.frozen import Frozen
from ...core.job.desk import Desk
from ...core.job.shape import FitChoice, Identified, Job, Station, Surveyed
from ...core.job.slots import map_view
from ...core.job.validation import look_over
from ...core.machine.attribute import listed, lowered
from ...core.machine.claim import Limits
from ...core.machine.part import Fittable
from ...core.money import major
from ...core.survey.acts import NextAct
from ...core.verdict import Verdict
from ...formats.parts import safe
from . import jobs, show_fit
from .workshop import workshop

#: What is taken to be in the machine.
Holds = Literal["delivered", "empty"]


class Asking(Frozen):
    """What one asks of a machine: whose limits count, what is in it (``has`` says it of single places, by number, "" for
    nothing), and what is put in, by place."""

    limits: Limits = Limits.PROVEN
    holds: Holds = "delivered"
    has: dict[str, str] = {}
    puts: dict[str, str] = {}
    makes: tuple[str, ...] = ()


#: As delivered, by what was proven on a bench.
PLAIN = Asking()


def pairs(text: str) -> dict[str, str]:
    """ "slot:number,slot:number" by slot. Raises :class:`InputError` for what is none."""
    found = {}
    for pair in filter(None, text.split(",")):
        slot, colon, number = pair.partition(":")
        if not colon or not slot:
            raise InputError(f"{pair!r} names no slot", "address", "Write slot:number, several with commas between.")
        found[slot.strip()] = number.strip()
    return found


def desk_of(machine: str, configuration: str, asking: Asking = PLAIN) -> Desk:
    """The desk of a configuration as nobody's job. Raises :class:`InputError` for a machine, slot or part there is none of."""
    job = Job(
        number=1, currency=workshop().currency, identify=Identified(machine=machine, configuration=configuration),
        fit=FitChoice(limits=asking.limits, build=asking.puts, makes=asking.makes),
    )  # fmt: skip
    desk = jobs.desk_for(job)
    if desk.machine is None:
        raise InputError(f"no machine {machine!r}", "machine", "Choose one of the library.", code=Code.MISSING)
    fitted: dict[str, Fittable | None] = {}
    if asking.holds == "empty":
        fitted = {s.id: None for s in desk.plain.slots if getattr(s, "form", "") != "soldered"}
    fitted |= {s: desk.fittable(n) if n else None for s, n in asking.has.items()}
    for place in (*asking.has, *asking.puts):
        desk.plain.slot(place)  # raises for one this machine has not
    asked = job.model_copy(update={"survey": Surveyed(fitted=fitted)}) if fitted else job
    look_over(desk.plain, None, asked, desk.fittable)
    return jobs.desk_for(asked) if fitted else desk


def as_job(machine: str, configuration: str, asking: Asking) -> int:
    """What is asked made a job, at Fit: whose limits count, what is in it and what is put in. Returns the number."""
    desk = desk_of(machine, configuration, asking)
    told = desk.job.model_dump(mode="json", include={"identify", "fit", "survey"})
    return jobs.start_asked({**told, "title": f"What fits a {desk.configured.title}", "station": Station.FIT})


def station(machine: str, configuration: str, asking: Asking, whole: bool) -> str:
    """A :class:`show_fit.FitStation` as JSON."""
    return show_fit.station_of(desk_of(machine, configuration, asking), whole)


def why(machine: str, configuration: str, asking: Asking, slot: str, part: str) -> show_fit.WhyView:
    """Every finding of one pair, with what it rests on."""
    return show_fit.why_of(desk_of(machine, configuration, asking), slot, part)


def compared(machine: str, configuration: str, asking: Asking, slot: str, parts: list[str]) -> Comparison:
    """Parts side by side in one slot."""
    return desk_of(machine, configuration, asking).compared(slot, parts)


def schools(machine: str, configuration: str, asking: Asking) -> dict[Limits, int]:
    """How many pairs go in under each school of limits."""
    return desk_of(machine, configuration, asking).schools()


def acts(machine: str, configuration: str, asking: Asking) -> tuple[NextAct, ...]:
    """What somebody would do to know more of this machine, the act that decides most for its minutes first."""
    return desk_of(machine, configuration, asking).next_acts()


class FitsLine(Frozen):
    """A part in one place. ``says`` is what objects to it, ``notes`` what else is said, ``asks`` what is to be settled
    first."""

    slot: str
    place: str
    kind: str
    number: str
    name: str
    verdict: Verdict
    says: str
    notes: str
    asks: str
    caution: str
    price_minor: int | None
    with_minor: int


class FitsPaper(Frozen):
    """What goes into a machine, for printing and for other programs: ``acts`` are what would settle what is open."""

    format: Literal["insertum-what-fits/1"] = "insertum-what-fits/1"
    machine: str
    configuration: str
    title: str
    processor: str
    limits: Limits
    takes: dict[str, str]
    holds: dict[str, str]
    currency: str
    ceilings: tuple[str, ...]
    lines: tuple[FitsLine, ...]
    refused: int
    acts: tuple[NextAct, ...]


def paper(machine: str, configuration: str, asking: Asking) -> FitsPaper:
    """Everything that goes in or waits for an answer, place by place, the best first; what is refused is counted."""
    desk = desk_of(machine, configuration, asking)
    named = {s.id: s.name for s in desk.configured.slots}
    lines: list[FitsLine] = []
    refused = 0
    for row in desk.rows():
        for cell in row.cells:
            if cell.verdict.rank > Verdict.MEASURE_FIRST.rank:
                refused += 1
                continue
            judged = desk.judged_in(cell.slot, row.part)
            lines.append(
                FitsLine(
                    slot=cell.slot, place=named[cell.slot], kind=row.part.kind, number=row.part.number, name=row.part.name,
                    verdict=cell.verdict, says=" ".join(f.says for f in judged.findings if f.verdict is not Verdict.SEATS),
                    notes=" ".join(f.says for f in judged.findings if f.verdict is Verdict.SEATS),
                    asks=listed([lowered(f.label) for f in judged.findings if f.attribute and f.label]),
                    caution=" ".join(f.caution for f in judged.findings if f.caution), price_minor=row.part.price_minor,
                    with_minor=cell.extra_minor,
                )
            )  # fmt: skip
    order = list(named)
    lines.sort(key=lambda x: (order.index(x.slot), x.verdict.rank, x.price_minor is None, x.price_minor or 0, x.number))
    held = {named[s]: p.name if p else "empty" for s, p in desk.today.fitted.items() if s in named}
    held |= {named[s.id]: "not known" for s in desk.configured.slots if not desk.today.looked_into(s.id)}
    return FitsPaper(
        machine=machine, configuration=configuration, title=desk.configured.title,
        processor=desk.configured.configuration.processor, limits=asking.limits,
        takes={v.name: v.summary for v in map_view(desk.today, {}, {}).slots}, holds=held, currency=workshop().currency,
        ceilings=ceilings(desk), lines=tuple(lines), refused=refused, acts=desk.next_acts(),
    )  # fmt: skip


CSV_COLUMNS = ("place", "kind", "number", "name", "verdict", "says", "notes", "asks", "caution", "price", "accessories")


def as_csv(found: FitsPaper) -> str:
    """The same as CSV, a line each; prices in major units of the paper's currency, empty where nobody sells it."""
    out = io.StringIO()
    write = csv.writer(out, lineterminator="\n")
    write.writerow(CSV_COLUMNS)
    for x in found.lines:
        write.writerow(
            [safe(v) for v in (x.place, x.kind, x.number, x.name, x.verdict, x.says, x.notes, x.asks, x.caution)]
            + ["" if m is None else major(m, found.currency) for m in (x.price_minor, x.with_minor or None)]
        )  # fmt: skip
    return out.getvalue()
