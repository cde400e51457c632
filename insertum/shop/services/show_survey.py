"""What Survey shows: what is in each slot, how that is known, and what a measurement would open."""

from itertools import islice
from typing import Literal

from ...core.fit.judge import Worth
from ...core.frozen import Frozen
from ...core.job.desk import Desk
from ...core.job.slots import MapView, map_view, soldered_lines
from ...core.kinds.all import kind_for
from ...core.known.known import Usual
from ...core.machine.claim import Limits
from ...core.machine.shape import Slot
from ...core.prepare.gates import AsUsual
from ...core.survey.acts import NextAct
from ...core.survey.contradict import Contradiction
from . import claims, jobs
from .answer_cache import answered_from
from .shapes import Choice
from .stand_ins import stand_ins

#: So many parts are offered by name as found in a slot; of a larger catalogue the label names one sooner than a list.
MOST_NAMED = 80


class ReadView(Frozen):
    """The reading in short: which files were understood and which not, what it proved and what it left open."""

    understood: tuple[str, ...]
    not_understood: tuple[str, ...]
    proved: tuple[str, ...]
    left_open: tuple[str, ...]
    weak: tuple[str, ...]


class SurveyView(Frozen):
    map: MapView
    choices: dict[str, tuple[Choice, ...]]
    more_by_label: tuple[str, ...]
    limits: Limits
    observed: dict[str, tuple[str, ...]]
    since: dict[str, jobs.Since]
    contradictions: tuple[Contradiction, ...]
    reading: ReadView | None
    claims: tuple[claims.Review, ...]
    usual: tuple[Usual, ...]
    as_usual: AsUsual | None
    believed: dict[str, Literal["reading", "library"]]
    words_beside: str
    simulated: bool
    soldered: tuple[str, ...]
    machine: str


def _could_sit(desk: Desk, slot: Slot) -> tuple[Choice, ...]:
    """Parts that may lie in a slot, one more than a list shows where there are more."""
    kind = kind_for(slot.kind)
    fitting = (p for p in desk.parts.by_kind.get(kind.id, ()) if kind.could_sit(desk.today, slot, p))
    return tuple(Choice(number=p.number, name=p.name) for p in islice(fitting, MOST_NAMED + 1))


def survey(number: int) -> SurveyView:
    """Everything the station shows at first."""
    desk = jobs.desk_of(number)
    choices = {s.id: _could_sit(desk, s) for s in desk.configured.slots}
    machine, stands = desk.plain.machine.id, stand_ins()
    return SurveyView(
        map=answered_from("map at survey", number, lambda d: map_view(d.today, {}, d.how_known())),
        choices={slot: named[:MOST_NAMED] for slot, named in choices.items()},
        more_by_label=tuple(slot for slot, named in choices.items() if len(named) > MOST_NAMED),
        limits=desk.job.fit.limits,
        observed=desk.observed(),
        since=jobs.since(number),
        contradictions=desk.contradictions(),
        reading=_in_short(desk),
        believed=desk.job.survey.believed,
        claims=tuple(c for c in claims.reviews(machine) if c.job == number),
        usual=desk.usual_things(),
        as_usual=desk.job.survey.as_usual,
        words_beside=stands.words_beside(number) if stands else "",
        simulated=stands is not None,
        soldered=soldered_lines(desk.today),
        machine=machine,
    )


def worth(number: int) -> tuple[Worth, ...]:
    """What settling each thing that is still asked would decide: the whole catalogue is looked through for it, so it comes
    after what is seen first."""
    return answered_from("worth", number, lambda desk: desk.worth_today())


def acts(number: int) -> tuple[NextAct, ...]:
    """What to do next, with the questions each act answers: the whole catalogue is looked through for it."""
    return answered_from("acts", number, lambda desk: desk.next_acts())


def _in_short(desk: Desk) -> ReadView | None:
    reading, told = desk.job.survey.reading, desk.reading_summary()
    if reading is None or told is None:
        return None
    weak = []
    if reading.maximum_gb:
        weak.append(f"Firmware names {reading.maximum_gb} GB as its maximum: weak evidence, never a bound.")
    if reading.arrays and reading.arrays > 1:
        weak.append(f"Firmware lists {reading.arrays} memory arrays.")
    return ReadView(
        understood=reading.understood, not_understood=reading.not_understood,
        proved=told.proved, left_open=told.left_open, weak=tuple(weak),
    )  # fmt: skip
