"""Needs that have no figure yet: what would measure them, and which parts could serve them (rules.md section 7).

Hours wait for a measured draw, reach for a measurement at the owner's far place. Until then no part is sold for them, and
that is said with the parts that would be.
"""

from typing import Any

from ..money import money
from .need import Need, NeedKind
from .planner import Planner
from .request import PlanRequest, Use

#: Minutes of a trial under the customer's own work.
TRIAL_MINUTES = 10
#: More parts than this are counted, not named.
_NAMED = 3
#: Figures under which every Wh and every Mb/s more is felt: whether a part serves better hangs on no measurement then.
_FELT: dict[NeedKind, dict[str, Any]] = {
    NeedKind.RUNTIME: {"average_mw": 300_000},
    NeedKind.RADIO_REACH: {"far_mbit_s": 1.0},
}
_PARTS = {NeedKind.RUNTIME: ("battery",), NeedKind.RADIO_REACH: ("radio",)}


def unmeasured(planner: Planner) -> tuple[str, ...]:
    """A sentence for each need that waits for a trial: why, how long that takes, and what could serve it."""
    found = []
    for need in planner.unmeasured:
        parts = serving(planner.request, need)
        named = [f"{n} ({money(minor, planner.terms.currency)})" for n, minor in parts[:_NAMED]]
        more = f" and {len(parts) - _NAMED} more" if len(parts) > _NAMED else ""
        could = f"It could be served by {', '.join(named)}{more}; none is sold on it before." if parts else (
            "No part that is to be had here would lift it, whatever the trial says."
        )  # fmt: skip
        why = planner.use.unmeasured(need.kind)
        found.append(
            f"{need.label}: {why}. A trial under the customer's own work, {TRIAL_MINUTES} min, measures it. {could}"
        )
    return tuple(found)


def serving(request: PlanRequest, need: Need) -> list[tuple[str, int]]:
    """Parts that could lift a need nobody has measured, with their price in minor units: cheapest first."""
    parts = tuple(p for p in request.parts if p.kind in (*_PARTS[need.kind], "accessory"))
    felt = Need(kind=need.kind, floor=1e5, comfort=2e5, ceiling=3e5, weight=1, set_by=need.set_by)
    use = Use.model_validate(request.use.model_dump() | {"router": None, "line_mbit_s": None} | _FELT[need.kind])
    planner = Planner(request.model_copy(update={"parts": parts, "needs": (felt,), "tasks": (), "use": use}))
    found: dict[str, int] = {}
    for choice in (c for g in planner.groups for c in g.choices):
        if any(most > 0 for e in choice.effects for most in e.most):
            for _, candidate in choice.changes:
                if candidate is not None:
                    number = candidate.part.number
                    found[number] = min(found.get(number, candidate.money), candidate.money)
    return sorted(found.items(), key=lambda x: (x[1], x[0]))
