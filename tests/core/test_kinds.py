"""Every kind answers every hook; a kind or a hook left out does not go unseen."""

import inspect
from typing import Any

import pytest

from insertum.core.fit.judge import kind_fits
from insertum.core.fit.rulebook import RULES
from insertum.core.kinds.all import KINDS, kind_for, kind_of
from insertum.core.kinds.base import COMMON_COLUMNS, Kind
from insertum.core.machine.claim import Limits, Source
from insertum.core.plan.need import NeedKind
from insertum.core.vocabulary import vocabulary
from insertum.formats.parts import COLUMNS, SCALED

from . import made

SLOT_OF = {
    "memory": "memory-a",
    "m2_drive": "drive-1",
    "bay_drive": "bay",
    "radio": "radio",
    "cellular": "cellular",
    "battery": "battery",
}
PARTS: dict[str, Any] = {
    "memory": made.module(), "m2_drive": made.drive(), "bay_drive": made.bay_drive(), "radio": made.radio(), "cellular": made.cellular(),
    "battery": made.pack(), "accessory": made.accessory("A", "bracket"),
}  # fmt: skip


@pytest.mark.parametrize("kind", list(KINDS))
def test_every_kind_answers_every_hook(kind: str) -> None:
    part = PARTS[kind]
    k = kind_of(part)
    assert k.word and k.plural and k.detail(part) and k.moves().out and k.moves().into
    laid = made.machine({"cellular": {}})
    if kind == "accessory":
        assert not k.slots and not k.rules
        return
    slot = laid.slot(SLOT_OF[kind])
    build = made.build(laid).with_part(slot.id, part)
    assert slot.kind in k.slots and kind_for(slot.kind) is k and kind_fits(slot, part)
    assert [e.number for e in k.expects(build, slot, part)][0] == part.number
    assert k.does(build, slot.id, part).end and k.figures(build, slot.id, part)
    assert k.adds(build, slot.id, part)[0] >= 0
    assert set(k.slots) <= set(part.could_meet)
    # Every rule that speaks of the kind begins as the kind says, or speaks of every kind.
    general = {"bench.outcome", "build.shared", "job.as_usual"}
    ours = {r.id for r in RULES.values() if isinstance(part, r.parts)} - general
    assert ours and all(id.startswith(k.rules) for id in ours)
    assert set(k.needs) <= set(NeedKind)


@pytest.mark.parametrize("kind", list(KINDS))
def test_every_field_of_a_part_has_its_column(kind: str) -> None:
    part = PARTS[kind]
    written = {
        SCALED[c][0] if c in SCALED else c for c in (*COMMON_COLUMNS, *KINDS[kind].columns, "selling", "offers", "note")
    }
    assert set(type(part).model_fields) <= written
    assert set(KINDS[kind].form) <= set(COLUMNS)


def test_a_list_to_pick_from_leaves_out_what_cannot_lie_there() -> None:
    """A notch lets in one generation, a key what is cut for it; what nobody knows of slot or part leaves nothing out."""

    def could(slot: str, part: Any, **facts: Any) -> bool:
        build = made.build(made.machine({slot: facts}))
        return kind_of(part).could_sit(build, build.machine.slot(slot), part)

    assert could("memory-a", made.module(generation=4), generation=4)
    assert not could("memory-a", made.module(generation=3, grade_mts=1600), generation=4)
    assert could("memory-a", made.module(generation=3, grade_mts=1600), generation=None)
    assert could("drive-1", made.drive(keys=("B", "M")), key="M") and not could(
        "drive-1", made.drive(keys=("M",)), key="B"
    )
    assert could("drive-1", made.drive(keys=None), key="B") and could("drive-1", made.drive(keys=("M",)), key=None)


def test_pages_take_their_words_from_the_kinds_and_the_core() -> None:
    told = vocabulary()
    assert [k.id for k in told.kinds] == list(KINDS)
    assert {k.id: (k.one, k.many) for k in told.kinds}["radio"] == ("Wi-Fi card", "Wi-Fi cards")
    assert [k.slots for k in told.kinds if k.id == "bay_drive"] == [("bay",)]
    assert [s.says for s in told.stations][:2] == ["Intake", "Identify"] and told.stations[-1].says == "Hand over"
    assert {w.id for w in told.limits} == set(Limits)
    # What only follows by itself is nobody's to write down.
    assert {w.id for w in told.sources} == set(Source) - {Source.RUNS, Source.ASSUMED}


def test_a_hook_left_out_cannot_be_made() -> None:
    hooks = [n for n, f in inspect.getmembers(Kind) if getattr(f, "__isabstractmethod__", False)]
    assert sorted(hooks) == ["adds", "detail", "does", "expects", "figures", "moves", "size"]
    for hook in hooks:
        rest = {h: lambda self, *a: None for h in hooks if h != hook}
        with pytest.raises(TypeError, match=hook):
            type("Half", (Kind,), rest)()
