"""Machine data: what a file may say, what it may not, and what a configuration changes."""

import copy
from typing import Any

import pytest

from insertum.core.errors import InputError
from insertum.core.known.known import as_delivered
from insertum.core.machine.shape import Machine

from . import made

STRAND = made.demo_machine("veyra-strand-15").model_dump(mode="json")


def changed(path: str, value: Any) -> dict[str, Any]:
    """The Strand's data with one place changed; a number in the path is an index."""
    data = copy.deepcopy(STRAND)
    *steps, last = [int(s) if s.isdigit() else s for s in path.split("/")]
    here: Any = data
    for step in steps:
        here = here[step]
    if value is ...:
        del here[last]
    else:
        here[last] = value
    return data


# place, value (... removes it), what the refusal says
BAD = [
    ("id", "Strand 15", "pattern"),
    ("id", ..., "required"),
    ("format", "insertum-machine/3", "insertum-machine/2"),
    ("maker", ..., "required"),
    ("width_mm", 0, "greater than 0"),
    ("width_mm", "wide", "valid number"),
    ("colour", "green", "Extra inputs"),
    ("opens", "sideways", "under"),
    ("configurations", [], "at least 1"),
    ("configurations/0/id", "mk2-rill-430", "two configurations share one id"),
    ("slots/0/kind", "floppy", "tag"),
    ("slots/1/id", "memory-b", "two slots share one id"),
    ("slots/1/reached_by", ["drawbridge"], "drawbridge"),
    ("slots/1/place/w_mm", -80, "greater than 0"),
    ("slots/1/pcie_lanes", 3, "none of 0, 1, 2, 4"),
    ("slots/1/pcie_generation", 9, "none of 1, 2, 3, 4, 5"),
    ("slots/1/pcie_generation", 0, "none of"),
    ("slots/1/clearance_below_um", -1500, "greater than or equal to 0"),
    ("memory/total_limit_gb", 3200, "nothing a laptop has"),
    ("memory/speed_by_modules", {"99": 3200}, "no population"),
    ("slots/1/sata", "some", "valid integer"),
    ("slots/1/cooled", [{"value": True, "source": "rumour"}], "documented"),
    ("slots/1/standoffs_mm", ["long"], "valid integer"),
    ("slots/1/fitted/kind", "battery", "required"),
    ("slots/4/voltage_mv", {"value": 15200, "source": "documented", "by": "me"}, "Extra inputs"),
    ("memory/soldered/0/capacity_gb", "eight", "valid integer"),
    ("obstacles/0/what", "moat", "feet"),
    ("obstacles/0/seconds", -1, "greater than or equal to 0"),
    ("obstacles/1/after", ["nowhere"], "nowhere"),
    ("power_off", "nowhere", "named but not there"),
    ("boot_slot", "drive-9", "named but not there"),
    ("exclusions", [{"when": "drive-9", "holds": "anything", "on": "drive-2"}], "named but not there"),
    ("exclusions", [{"when": "drive-1", "holds": "hands", "on": "drive-2"}], "anything"),
    ("marks/0/kind", "smell", "family"),
]


@pytest.mark.parametrize(("path", "value", "says"), BAD)
def test_bad_data_is_refused_by_name(path, value, says) -> None:
    with pytest.raises(ValueError, match=says):
        Machine.model_validate(changed(path, value))


def test_good_data_survives_a_round_trip() -> None:
    machine = Machine.model_validate(STRAND)
    assert Machine.model_validate_json(machine.model_dump_json()) == machine


def test_a_configuration_changes_only_what_it_names() -> None:
    machine = Machine.model_validate(STRAND)
    one, two = (machine.configured(c.id) for c in machine.configurations)
    assert [s.id for s in one.slots if s != two.slot(s.id)] == ["memory-b", "drive-1"]
    assert one.boot == two.boot and one.memory.soldered == two.memory.soldered
    assert as_delivered(one).value("drive-1", "standoffs_mm") == (80,)
    assert as_delivered(two).value("drive-1", "standoffs_mm") == (42, 80)


@pytest.mark.parametrize(
    "differs",
    [
        {"memory-b": {"limit_gb": "lots"}},
        {"memory": {"speed_mts": []}, "drive-1": {"key": 7}},
        {"boot": {"style": "modern"}},
        {"drive-1": {"colour": "green"}},
    ],
)
def test_differences_that_do_not_fit_are_refused_with_their_place(differs) -> None:
    machine = Machine.model_validate(changed("configurations/0/differs", differs))
    with pytest.raises(InputError, match="mk1-rill-310"):
        machine.configured("mk1-rill-310")


def test_unknown_is_a_choice_everywhere() -> None:
    data = copy.deepcopy(STRAND)
    for slot in data["slots"]:
        for name in set(slot) - {
            "id",
            "name",
            "kind",
            "place",
            "reached_by",
            "swap_seconds",
            "fitted",
            "form",
            "locator",
            "looked",
            "pci",
        }:
            slot[name] = None
    data["configurations"][0]["differs"] = {}
    blank = Machine.model_validate(data).configured("mk1-rill-310")
    with pytest.raises(InputError, match="no slot"):
        blank.slot("drive-9")
    for slot_id, part in {
        "memory-b": made.module(),
        "drive-1": made.drive(),
        "radio": made.radio(),
        "battery": made.pack(),
    }.items():
        from insertum.core.fit.judge import judge

        # The delivered pack still shows its plug and voltage, and both are others than this one's.
        wanted = "refused" if slot_id == "battery" else "measure_first"
        assert judge(made.build(blank), slot_id, part).verdict == wanted
