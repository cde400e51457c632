"""The choices Intake offers, what follows from them, and the workshop's triage list."""

from ...core.frozen import Frozen
from ...core.intake.intake import derive_needs
from ...core.intake.load import LoadSays
from ...core.intake.presets import PRESETS
from ...core.intake.purchase import PurchaseAdvice, advice
from ...core.intake.triage import Complaint, Triage, Tried
from ...core.plan.answer import today
from ...core.plan.need import LABELS, UNITS
from ...core.plan.result import NeedState
from ...core.tasks.catalogue import CATALOGUE
from . import jobs, triage
from .answer_cache import answered
from .shapes import NeedView

#: Tasks by id, as a cause names the one that mends it.
CURES = {t.id: t.name for t in CATALOGUE}


class IntakeView(Frozen):
    """The choices intake offers, and the needs that follow from what is entered. ``advice`` is for a
    machine that is not bought yet."""

    uses: dict[str, str]
    complaints: tuple[Complaint, ...]
    tried: dict[str, Tried]
    cures: dict[str, str]
    needs: tuple[NeedView, ...]
    today: tuple[NeedState, ...]
    load: LoadSays
    slots: dict[str, str]
    advice: tuple[PurchaseAdvice, ...]


def intake(number: int) -> IntakeView:
    """What is entered of a job's owner and complaints, and what follows from it."""
    desk = jobs.desk_of(number)
    known = desk.machine is not None and bool(desk.job.identify.configuration)
    needs = desk.needs if known else derive_needs(desk.job.intake, None, desk.complaints, desk.load)
    return IntakeView(
        uses={k: p.name for k, p in PRESETS.items()},
        complaints=tuple(desk.complaints.values()),
        tried=triage.outcomes(),
        cures=CURES,
        needs=tuple(NeedView(need=n, label=LABELS[n.kind], unit=UNITS[n.kind]) for n in needs),
        today=answered("needs today", number, lambda: today(desk.request([]))) if known else (),
        load=desk.load,
        slots={x.id: x.name for x in desk.configured.slots} if known else {},
        advice=advice(desk.configured) if known and desk.job.intake.owned == "not_bought" else (),
    )


class TriageView(Frozen):
    """The workshop's list, how often each cause was it, and what a complaint may weigh."""

    triage: Triage
    tried: dict[str, Tried]
    needs: dict[str, str]
    cures: dict[str, str]


def triage_list() -> TriageView:
    """The list as it stands."""
    return TriageView(
        triage=Triage(complaints=tuple(triage.complaints().values())),
        tried=triage.outcomes(),
        needs={k: v for k, v in LABELS.items() if k != "fault"},
        cures=CURES,
    )
