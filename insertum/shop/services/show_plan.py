"""What Plan shows beside the answer."""

from ...core.intake.intake import free_first
from ...core.machine.bay_and_battery import BaySlot
from ...core.machine.card_sockets import DriveSlot
from ...core.plan.need import LABELS, UNITS
from . import jobs, plan_job
from .shapes import NeedView


class PlanStation(plan_job.Planned):
    """The answer, the build in hand from Fit as a plan of its own, how the chosen plan differs from today, and what the
    station's fields choose from. ``free_first``: free causes of the complaints that nobody has looked at yet."""

    needs: tuple[NeedView, ...]
    slots: dict[str, str]
    boot_slots: tuple[str, ...]
    approved_makes: tuple[str, ...]
    free_first: tuple[str, ...] = ()


def plan(number: int, certain: bool = False) -> PlanStation:
    """The plans of a job, with what the station's fields choose from. ``certain``: those alone that rest on no question."""
    planned = plan_job.planned(number, certain)
    desk = jobs.desk_of(number)
    return PlanStation(
        answer=planned.answer,
        own=planned.own,
        difference=planned.difference,
        makes=planned.makes,
        needs=tuple(NeedView(need=n, label=LABELS[n.kind], unit=UNITS[n.kind]) for n in desk.needs),
        slots={s.id: s.name for s in desk.configured.slots},
        boot_slots=tuple(s.id for s in desk.configured.slots if isinstance(s, DriveSlot | BaySlot)),
        free_first=free_first(desk.job.intake, desk.complaints),
        approved_makes=plan_job.approved_makes(number),
    )
