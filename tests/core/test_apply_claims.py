"""Where a maker's words land: every attribute in its place and unit, beside what is there, with what is said of each row."""

import pytest

from insertum.core.machine.shape import Machine
from insertum.core.maker_text.apply_claims import landed, page
from insertum.core.maker_text.read import read_spec
from insertum.core.survey.new_machine import Started, started

from . import made

PAGE = """Memory: 8 GB LPDDR4X-4266 soldered, one SO-DIMM socket, DDR4, 40 GB in all
Two modules run at 2666 MT/s.
Drive slot: M.2 2242/2280, key M, PCIe 4.0 x4, SATA 6 Gb/s, drives up to 2 TB
2.5-inch bay, 7 mm, SATA 3 Gb/s
WLAN: Wi-Fi 6 2x2, soldered
WWAN: M.2 3042 slot, key B, SIM tray, two antennas fitted
Battery: AP-WE56 (56.5 Wh, 15.4 V), glued
64 GB eMMC soldered
mSATA: one full-size mini card slot, SATA 6 Gb/s
Processor: Corvane Rill 340, 4 cores
"""


def machine(**more: object) -> Machine:
    data, _ = started(Started(maker="Brannock", name="Weir 14", **more), None, (), set())
    return Machine.model_validate(data)


def take(m: Machine, text: str, where: str = "") -> Machine:
    spec = read_spec(text, m.name)
    chosen = [r.id for r in page(m, spec).rows if r.goes == "in"]
    return Machine.model_validate(landed(m, spec, chosen, where, {}))


@pytest.fixture(scope="module")
def whole() -> Machine:
    return take(machine(), PAGE, "data sheet")


def values(m: Machine, place: str, name: str) -> list[object]:
    target = getattr(m, place) if place in ("memory", "boot") else next(s for s in m.slots if s.id == place)
    return [c.value for c in getattr(target, name).claims]


def test_memory_lands_on_board_sockets_and_whole(whole: Machine) -> None:
    (chips,) = whole.memory.soldered
    assert (chips.capacity_gb, chips.rated_mts, chips.channel) == (8, 4266, None)
    assert values(whole, "memory", "total_limit_gb") == [40]
    assert [c.value for c in whole.memory.speed_by_modules[2].claims] == [2666]
    assert [s.id for s in whole.slots if s.kind == "memory"] == ["memory-a"]
    assert values(whole, "memory-a", "generation") == [4]


def test_places_land_in_the_units_of_the_shape(whole: Machine) -> None:
    kinds = sorted((s.kind, getattr(s, "form", "")) for s in whole.slots)
    assert kinds == [
        ("battery", ""), ("bay", ""), ("cellular", "m2"), ("m2_drive", "m2"), ("m2_drive", "mini"), ("m2_drive", "soldered"),
        ("memory", ""), ("radio", "soldered"),
    ]  # fmt: skip
    assert values(whole, "drive-1", "standoffs_mm") == [(42, 80)]
    assert values(whole, "drive-1", "width_mm") == [22] and values(whole, "drive-1", "key") == ["M"]
    assert [values(whole, "drive-1", n) for n in ("pcie_generation", "pcie_lanes", "sata", "drive_limit_gb")] == [
        [4],
        [4],
        [3],
        [2000],
    ]
    bay = next(s for s in whole.slots if s.kind == "bay")
    assert [c.value for c in bay.height_um.claims] == [7000] and [c.value for c in bay.sata.claims] == [2]
    mini = next(s for s in whole.slots if getattr(s, "form", "") == "mini")
    assert [c.value for c in mini.mini_sizes.claims] == [("full",)] and [c.value for c in mini.sata.claims] == [3]
    modem = next(s for s in whole.slots if s.kind == "cellular")
    assert [c.value for c in modem.leads.claims] == [2] and [c.value for c in modem.sim_tray.claims] == ["present"]


def test_lists_a_page_gives_may_go_on_and_every_claim_says_where_it_is_from(whole: Machine) -> None:
    drive = next(s for s in whole.slots if s.id == "drive-1")
    (claim,) = drive.standoffs_mm.claims
    assert (
        claim.among_others
        and claim.source == "documented"
        and claim.note.startswith("data sheet: “Drive slot: M.2 2242/2280")
    )
    pack = next(s for s in whole.slots if s.kind == "battery")
    assert [(c.value, c.among_others) for c in pack.accepts.claims] == [(("AP-WE56",), True)]
    assert not drive.pcie_lanes.claims[0].among_others


def test_what_is_described_and_not_named_goes_by_the_machine_s_own_name(whole: Machine) -> None:
    radio = next(s for s in whole.slots if s.kind == "radio")
    assert radio.fitted and (radio.fitted.number, radio.fitted.kind) == ("brannock-weir-14-radio", "radio")
    assert (radio.fitted.standard, radio.fitted.streams, radio.looked) == ("ax", 2, True)
    pack = next(s for s in whole.slots if s.kind == "battery")
    assert pack.fitted and (pack.fitted.number, pack.fitted.design_mwh) == ("brannock-weir-14-pack", 56500)
    assert [c.value for c in pack.voltage_mv.claims] == [15400] and [c.value for c in pack.held_by.claims] == ["glue"]
    drive = next(s for s in whole.slots if s.id == "drive-1")
    assert drive.fitted is None and not drive.looked  # nothing is said of what is in it


def test_the_only_configuration_takes_the_only_processor(whole: Machine) -> None:
    (c,) = whole.configurations
    assert (c.processor, c.cores) == ("Corvane Rill 340", 4)
    two = take(machine(), "Processor: Corvane Rill 340 or Corvane Beck 450")
    assert [c.processor for c in two.configurations] == ["Corvane Rill 340", "Corvane Beck 450"]
    again = take(machine(processor="Corvane Rill 999"), "Processor: Corvane Rill 340")
    assert [c.processor for c in again.configurations] == ["Corvane Rill 999", "Corvane Rill 340"]  # ours stays


def test_a_heading_that_names_no_processor_begins_a_configuration_of_its_own() -> None:
    text = "Veyra Pier 15 mk I\nMemory: one SO-DIMM socket, 24 GB maximum\nVeyra Pier 15 mk II\nMemory: one SO-DIMM socket, 40 GB maximum"
    m = take(machine(), text)
    assert [(c.name, c.processor) for c in m.configurations][1:] == [
        ("Veyra Pier 15 mk I", "unknown"),
        ("Veyra Pier 15 mk II", "unknown"),
    ]
    limits = [[c.value for c in m.configured(c.id).memory.total_limit_gb.claims] for c in m.configurations]
    assert limits == [[], [24], [40]]


def test_a_year_is_found_by_its_mark_and_no_other_is() -> None:
    strand = Machine.model_validate_json((made.DEMO / "machines" / "veyra-strand-15.json").read_text())
    m = take(strand, "In contrast to the mk I, the mk II runs memory at 2666 MT/s.")
    new = [
        [c.value for c in m.configured(c.id).memory.speed_mts.claims if c.note.startswith("“")]
        for c in m.configurations
    ]
    assert [c.name for c in m.configurations] == ["Strand 15 mk I", "Strand 15 mk II"] and new == [[], [2666]]


def test_what_is_said_of_all_stands_beside_what_one_says_differently() -> None:
    m = take(
        machine(processor="Corvane Rill 340"), "Maximum memory\tx\nA\tRill 340\tBeck 450\nMaximum memory\t32 GB\t64 GB"
    )
    m = take(m, "Maximum memory: 48 GB")
    limits = [[c.value for c in m.configured(c.id).memory.total_limit_gb.claims] for c in m.configurations]
    assert limits == [[32, 48], [64, 48]]


def test_the_way_in_is_drawn_once_in_the_order_of_the_manual() -> None:
    text = "1. Remove the ten PH0 screws (M2 x 5 mm) and lift off the bottom cover.\n2. Unplug the battery.\n3. Loosen the two captive screws of the shield and lift the shield."
    m = take(machine(), text)
    assert [(o.what, o.after, o.screws, o.tool, o.length_mm, o.captive) for o in m.obstacles] == [
        ("cover", (), 10, "PH0", 5.0, False), ("cable", ("step-1",), 0, "", None, False), ("shield", ("step-2",), 2, "", None, True),
    ]  # fmt: skip
    assert m.power_off == "step-2" and m.obstacles[1].name == "Battery cable"
    rows = page(m, read_spec("1. Lift off the bottom cover.", m.name)).rows
    assert {r.goes for r in rows} <= {"there", "shown"}  # a way in that is drawn is nobody's to overwrite
    assert take(m, "1. Peel off the rubber feet.").obstacles == m.obstacles


@pytest.mark.parametrize(
    ("text", "label", "value", "unit", "now", "goes"),
    [
        ("Maximum memory: 40 GB", "Memory: in all at most", "40", "GB", "40", "there"),
        ("Maximum memory: 48 GB", "Memory: in all at most", "48", "GB", "40", "in"),
        ("Memory: three SO-DIMM sockets", "Memory: sockets", "3", "", "1", "in"),
        ("Memory: 16 GB soldered", "Memory: on the board", "16", "GB", "8", "shown"),
        ("2.5-inch bay, 9.5 mm", "2.5-inch bay: bay height", "9.5", "mm", "7", "in"),
        ("No 2.5-inch bay", "2.5-inch bay: how many", "0", "", "1", "shown"),
        ("Battery: 70 Wh", "Battery: energy", "70", "Wh", "56.5", "shown"),
        ("Battery options: 42 Wh, 63 Wh", "Battery: sold with", "42, 63", "Wh", "", "shown"),
        ("Three modules run at 2400 MT/s.", "Memory: rate by modules", "2400 with 3", "MT/s", "", "in"),
        ("Two modules run at 2666 MT/s.", "Memory: rate by modules", "2666 with 2", "MT/s", "2666 with 2", "there"),
        ("WLAN: Wi-Fi 7", "Wi-Fi card: Wi-Fi standard", "be", "", "ax", "shown"),
        ("Processor: Corvane Rill 340, 4 cores", "Processor: cores", "4", "", "4", "there"),
    ],
)  # fmt: skip
def test_a_row_says_what_the_library_has_and_where_it_goes(whole: Machine, text, label, value, unit, now, goes) -> None:
    row = next(r for r in page(whole, read_spec(text, whole.name)).rows if r.label == label)
    assert (row.value, row.unit, row.now, row.goes) == (value, unit, now, goes)
