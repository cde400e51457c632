"""Memory's figures over what is not known: the table is what going through every possibility comes to."""

from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from insertum.core.fit.build import Build
from insertum.core.fit.leaf import asks_of
from insertum.core.fit.possibilities import possibilities
from insertum.core.fit.views import BuildView
from insertum.core.plan.measure import memory_figures
from insertum.core.plan.memory_table import Cases, memory_cases
from insertum.core.plan.need import NeedKind
from insertum.core.survey.current_build import build_today

from . import made

OLD = made.module("OLD", capacity_gb=4, ranks=1, grade_mts=2400)
PROFILE = made.module("PRO", capacity_gb=16, grade_mts=2666, profile_mts=3200)
NEW = made.module("NEW", capacity_gb=8, ranks=1, grade_mts=3200)


def one_by_one(today: Build, build: Build) -> Cases:
    """The same by the inquiry, possibility after possibility."""

    def figures(view: BuildView) -> tuple[Any, Any]:
        found = memory_figures(view)
        return found[NeedKind.MEMORY_CAPACITY], found[NeedKind.MEMORY_THROUGHPUT]

    outcomes = possibilities((today, build), lambda a, b: (figures(a), figures(b)))
    cases = tuple(dict.fromkeys(o.answer for o in outcomes))
    gains = [(b[0] - a[0], b[1] - a[1]) for a, b in (o.answer for o in outcomes)]
    order = sorted(set(gains), reverse=True)
    asks = asks_of(outcomes, [order.index(g) for g in gains]) if len(cases) > 1 else ()
    return Cases(cases, frozenset(asks))


SOLDERED = ([], [{"capacity_gb": 8, "rated_mts": 2666, "channel": "A"}], [{"capacity_gb": 4}])
CONTENTS = ("unknown", None, OLD, PROFILE)


@settings(max_examples=120, deadline=None)
@given(
    st.tuples(st.sampled_from(CONTENTS), st.sampled_from(CONTENTS)), st.tuples(st.sampled_from(["keep", None, NEW, PROFILE]), st.sampled_from(["keep", NEW])),
    st.tuples(st.sampled_from(["A", None]), st.sampled_from(["B", None])), st.sampled_from(SOLDERED), st.sampled_from([2666, None]),
    st.sampled_from([True, False, None]), st.sampled_from([1, 4]),
)  # fmt: skip
def test_the_table_is_what_every_possibility_comes_to(
    contents, changes, channels, soldered, speed, profiles, most
) -> None:
    slots = {s: {"channel": c, "limit_gb": most} for s, c in zip(("memory-a", "memory-b"), channels, strict=True)}
    laid = made.machine(slots, memory_soldered=soldered, memory_speed_mts=speed, memory_applies_profiles=profiles)
    held = dict(zip(slots, contents, strict=True))
    unseen = tuple(s for s, c in held.items() if c == "unknown")
    today = build_today(laid, {s: c for s, c in held.items() if s not in unseen}, unknown=unseen)
    build = today
    for slot, change in zip(slots, changes, strict=True):
        build = build if change == "keep" else build.with_part(slot, change)
    wanted, got = one_by_one(today, build), memory_cases(today, build)
    assert set(got.cases) == set(wanted.cases)
    assert got.asks == wanted.asks


def test_by_hand() -> None:
    """One socket nobody looked into, which takes 1, 2 or 4 GB and is on channel A; 4 GB at 2400 in the other."""
    laid = made.machine({"memory-a": {"limit_gb": 4}}, memory_speed_mts=2400)
    today = build_today(laid, {"memory-b": OLD}, unknown=("memory-a",))
    got = memory_cases(today, today.with_part("memory-a", made.module("NEW", capacity_gb=4, ranks=1, grade_mts=2400)))
    # Empty: 4 GB at 2400 × 8. Filled: 1, 2 or 4 GB more, at 2400 or as slow as 800.
    assert {a[0] for a, _ in got.cases} == {4, 5, 6, 8} and {b for _, b in got.cases} == {(8, 38400)}
    assert ((4, 19200), (8, 38400)) in got.cases and ((8, 12800), (8, 38400)) in got.cases
    # The least gain is where 4 GB at 2400 are in it already; that it is empty, or how large it is, says more.
    assert got.asks == {("fitted", "memory-a"), ("memory-a", "content.capacity_gb"), ("memory-a", "content.grade_mts")}
