"""What a page denies, what it says of something else, and what holds under a condition only: worked by hand before the
reader knew any of it. A denial is a claim of absence; all else claims nothing of this machine."""

import pytest

from insertum.core.maker_text.read import read_spec
from tests import draws

DENIED = [
    ("The bay is not fitted.", "bay.count"), ("2.5-inch bay: not available", "bay.count"), ("2.5-inch bay: N/A", "bay.count"),
    ("2.5-inch bay: –", "bay.count"), ("2.5-inch bay: none", "bay.count"), ("It never had a 2.5-inch bay.", "bay.count"),
    ("There is no 2.5-inch bay.", "bay.count"), ("The 2.5-inch bay was dropped.", "bay.count"), ("The bay is no longer present.", "bay.count"),
    ("Der Laufwerksschacht entfällt.", "bay.count"), ("Ein 2,5-Zoll-Schacht ist nicht vorhanden.", "bay.count"), ("Schacht: entfällt", "bay.count"),
    ("Ohne 2,5-Zoll-Schacht", "bay.count"), ("Pas de baie 2,5 pouces", "bay.count"), ("Sans baie 2,5 pouces", "bay.count"), ("La baie 2,5 pouces n'est pas disponible.", "bay.count"),
    ("Neither a bay nor a WWAN slot is provided.", "bay.count"), ("Neither a bay nor a WWAN slot is provided.", "cellular.count"),
    ("WWAN: not available", "cellular.count"), ("WWAN: –", "cellular.count"), ("WWAN slot: not present", "cellular.count"), ("Ein WWAN-Steckplatz fehlt.", "cellular.count"),
    ("Mobilfunk: nicht vorhanden", "cellular.count"), ("Pas de modem LTE", "cellular.count"), ("Without WWAN", "cellular.count"),
    ("There is no SO-DIMM socket.", "memory.sockets"), ("SO-DIMM sockets are not provided.", "memory.sockets"), ("Speichersteckplätze: nicht vorhanden", "memory.sockets"),
    ("Memory: soldered, no slots", "memory.sockets"), ("Emplacements mémoire : aucun", "memory.sockets"), ("SO-DIMM slot: N/A", "memory.sockets"),
    ("M.2 drive slot: not available", "m2_drive.count"), ("There is no M.2 slot for drives.", "m2_drive.count"), ("Kein M.2-Steckplatz für Laufwerke", "m2_drive.count"),
    ("eMMC: none", "emmc.count"), ("mSATA: n/a", "msata.count"), ("The bay,\nsadly, is not\nfitted.", "bay.count"),
]  # fmt: skip
NOTHING = [
    # denied of some, or of more than there is
    "There is no second M.2 slot.", "No free memory slot", "Kein weiterer SO-DIMM-Steckplatz", "Pas de deuxième emplacement M.2",
    "No tools are needed for the bay door.", "The SSD is not fitted.",
    # something else's own figures
    "The memory controller takes up to 96 GB.", "Memory controller: up to 96 GB", "Controller: PCIe 5.0 x4, M.2 2280 slot", "The processor supports two SO-DIMMs and 96 GB.",
    "Prozessor: unterstützt bis zu 96 GB Arbeitsspeicher", "Le processeur prend en charge deux emplacements SO-DIMM.", "Platform: 4 SO-DIMM sockets", "Adapter: M.2 2280 slot to USB",
    "Dock: two SO-DIMM sockets", "With the docking station: M.2 2280 slot", "Its platform has a 2.5-inch bay.", "Radio: 2230",
    # numbers that count nothing
    "7.4.3 M.2 drive", "3.2 SO-DIMM sockets", "2024-11-02 SO-DIMM sockets", "Lot 4 M.2 slots", "S/N 2 SO-DIMM slots", "Tested with 16 GB DDR5-5600 per slot in two SO-DIMM sockets.",
    "Does it have a 2.5-inch bay?", "Q: How many SO-DIMM slots are there? Two?", "Gibt es einen 2,5-Zoll-Schacht?",
    # under a condition
    "From firmware 1.20 on the memory maximum is 64 GB.", "Up to 64 GB with firmware 1.20", "Ab Firmware 1.20 maximal 64 GB Arbeitsspeicher",
    "The large battery fills the bay.", "With the 90 Wh battery there is no bay.", "Slot 2 falls to PCIe 3.0 x2 when the bay is used.", "The second M.2 slot runs at PCIe 3.0 if slot 1 is occupied.",
    "When all sockets are filled, memory runs at 3600 MT/s.",
]  # fmt: skip
SAYS = [
    ("SSD 1: 2280, PCIe Gen 4 x4", "drive-1.pcie_generation", 4), ("SSD 2: 2242, SATA III", "drive-2.sata", 3), ("Laufwerk 1: M.2 2280, PCIe 4.0 x4", "drive-1.pcie_lanes", 4),
    ("Memory clock: 3200 MT/s", "memory.speed_mts", 3200), ("Speichertakt: 4800 MT/s", "memory.speed_mts", 4800), ("Fréquence mémoire : 5600 MT/s", "memory.speed_mts", 5600),
    ("Memory: max. 64 GB (2 x 32 GB)", "memory.total_limit_gb", 64), ("Memory: max. 64 GB (2 x 32 GB)", "memory.socket_limit_gb", 32),
    ("Arbeitsspeicher: 32 GB je Steckplatz", "memory.socket_limit_gb", 32), ("Memory: at most 48 GB", "memory.total_limit_gb", 48),
    ("With both sockets filled memory runs at 2666 MT/s.", "memory.speed_by_modules", "2:2666"), ("When both slots are populated, memory runs at 4400 MT/s.", "memory.speed_by_modules", "2:4400"),
    ("## Memory\n**2 SO-DIMM sockets**, DDR4", "memory.sockets", 2), ("<table><tr><td>Memory</td><td>2 SO-DIMM sockets</td></tr></table>", "memory.sockets", 2),
    ("<ul><li>M.2 2280 slot, PCIe 4.0 x4</li></ul>", "drive-1.pcie_lanes", 4), ("M.2 228O slot, PC1e 4.0 x4", "drive-1.standoffs_mm", [80]), ("M.2 228O slot, PC1e 4.0 x4", "drive-1.pcie_generation", 4),
    ("Soldered memory: l6 GB", "memory.soldered_gb", 16), ("Two SO-DIMM sockets¹", "memory.sockets", 2), ("No bay, two SO-DIMM sockets", "memory.sockets", 2), ("No bay, two SO-DIMM sockets", "bay.count", 0),
]  # fmt: skip


def claims(text: str) -> list[tuple[str, object]]:
    return [(s.about, s.value) for s in read_spec(text).stated if s.name != "named"]


@pytest.mark.parametrize(("text", "about"), DENIED)
def test_a_denial_is_a_claim_of_absence(text: str, about: str) -> None:
    said = claims(text)
    assert (about, 0) in said
    place = about.partition(".")[0]
    assert [a for a, v in said if a.startswith((place, "drive-")) and v != 0] == []


@pytest.mark.parametrize("text", NOTHING)
def test_what_is_not_said_of_this_machine_claims_nothing(text: str) -> None:
    assert claims(text) == []


@pytest.mark.parametrize(("text", "about", "value"), SAYS)
def test_it_says_so(text: str, about: str, value: object) -> None:
    assert (about, value) in claims(text)


@pytest.mark.parametrize(
    "text",
    [
        "The drive in the bay is not included.",
        "Remove the cover without touching the bay.",
        "Wi-Fi card: M.2 2230, key E",
    ],
)
def test_neither_denied_nor_made_a_drives(text: str) -> None:
    assert [(a, v) for a, v in claims(text) if a.startswith("drive-") or v == 0] == []


def test_what_was_dropped_with_a_version_is_of_that_version() -> None:
    (said,) = [s for s in read_spec("The 2.5-inch bay was dropped with mk II.").stated if s.about == "bay.count"]
    assert (said.value, said.configuration) == (0, "mk II")


#: Places as pages name them, with what is counted.
PLACES = {"bay.count": "2.5-inch bay", "cellular.count": "WWAN slot", "memory.sockets": "SO-DIMM socket"}
HAVE = (
    "It has one {}.",
    "One {}",
    "{}: yes, one",
    "There is one {}.",
    "Q: Does it have a {}?\nA: Yes.",
    "| {} | one |",
    "* **One {}**",
)
LACK = (
    "There is no {}.",
    "The {} is not fitted.",
    "{}: none",
    "{}: not available",
    "Without a {}",
    "The {} entfällt.",
    "It never had a {}.",
    "Q: Does it have a {}?\nA: No.",
    "~~{}~~",
    "{}=none",
    "| {} | – |",
    "{}\tN/A",
    "{}: dropped",
)
ELSE = (
    "The platform has a {}.",
    "The dock has a {}.",
    "Does it have a {}?",
    "Some models have a {}.",
    "Its predecessor had a {}.",
    "There is no second {}.",
    "The cradle adds a {}.",
    "Units with serial numbers below 4K2200 have a {}.",
    "From 4K2200 on it has a {}.",
    "The {} is only there with the small battery.",
    "Only with the small battery is there a {}.",
    "I put a {} into mine.",
    "Somebody else says it has a {}.",
    "On the Brook 17 there is a {}.",
    "The Brook 17 and the Brook 18 differ. The larger one has a {}.",
    "Versions with a {} end in H.",
    "{} kit, sold separately",
    "Those built before March 2022 have a {}.",
    "A {} can be ordered.",
    "Ein Schwestermodell hat einen {}.",
)


def test_no_document_of_a_true_machine_says_what_is_false_of_it() -> None:
    """Written from what is true, in many ways, with denials, questions and other machines mixed in."""
    for seed in range(600):
        r = draws.chance(seed)
        true = {about: r.random() < 0.5 for about in PLACES}
        lines = [
            r.choice(HAVE if has else LACK).format(PLACES[about]) for about, has in true.items() if r.random() < 0.8
        ]
        lines += [r.choice(ELSE).format(r.choice(list(PLACES.values()))) for _ in range(r.randrange(4))]
        r.shuffle(lines)
        text = r.choice(("\n", "\n\n")).join(lines)
        said = [(s.about, s.value) for s in read_spec(text, "Weir 14").stated]
        wrong = [(a, v) for a, v in said if a in true and bool(v) != true[a]]
        assert not wrong, (seed, wrong, text)
