"""Numbers found on things, and the machine's file they come into."""

import pytest

from insertum.core.errors import InputError
from insertum.core.machine.numbered import identifies, library_says, things, with_number
from insertum.core.machine.shape import Machine

from . import made

DROVER, TERN, FELL = (made.demo_machine(m) for m in ("veyra-drover-14", "halden-tern-13", "brannock-fell-17"))


def first(m: Machine) -> str:
    return m.configurations[0].id


def test_a_machines_own_assemblies_stand_for_what_every_machine_has() -> None:
    assert things(TERN) == things(None) and things(TERN)["fan"] == "fan"
    own = things(FELL)
    assert "fan" not in own and own["fans"] == "fans" and own["panel"] == "panel"
    assert things(DROVER)["port-board"] == "port board, right"
    # An assembly somebody called "board" does not stand for the board, whose number identifies.
    odd = DROVER.model_copy(update={"assemblies": (DROVER.assemblies[0].model_copy(update={"id": "board"}),)})
    assert things(odd)["board"] == "board"


@pytest.mark.parametrize(
    ("machine", "thing", "before", "after"),
    [
        (DROVER, "fan", ("VY-F14-03",), ("X-1",)),  # another one is the machine's now
        (DROVER, "heat-sink", ("VY-H14-01",), ("X-1",)),
        (TERN, "fan", (), ("X-1",)),  # not noted so far: it is from now on
        (TERN, "panel", (), ("X-1",)),
        (TERN, "case", (), ("X-1",)),
    ],
)
def test_the_number_of_an_assembly_comes_into_the_file(machine, thing, before, after) -> None:
    assert library_says(machine, first(machine), thing) == before
    changed = Machine.model_validate(with_number(machine, first(machine), thing, "X-1"))
    assert library_says(changed, first(machine), thing) == after
    others = [a for a in changed.assemblies if a.id != thing]
    assert others == [a for a in machine.assemblies if a.id != thing]
    assert next(a for a in changed.assemblies if a.id == thing).source == "observed here"


@pytest.mark.parametrize(("thing", "kind"), [("board", "board"), ("pack", "battery")])
def test_what_identifies_becomes_a_mark_of_that_configuration_alone(thing, kind) -> None:
    assert identifies(thing) and not identifies("fan") and not identifies("case")
    one, *others = [c.id for c in DROVER.configurations]
    changed = Machine.model_validate(with_number(DROVER, one, thing, "X-1"))
    assert library_says(changed, one, thing) == (*library_says(DROVER, one, thing), "X-1")
    assert all(library_says(changed, c, thing) == library_says(DROVER, c, thing) for c in others)
    assert any(m.kind == kind and m.text == "X-1" for m in changed.configurations[0].marks)


@pytest.mark.parametrize("thing", ["part", "moon"])
def test_what_no_file_keeps_is_refused(thing) -> None:
    with pytest.raises(InputError, match="has no"):
        with_number(DROVER, first(DROVER), thing, "X-1")
