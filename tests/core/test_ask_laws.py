"""Laws of questions: what is meant does not hang on order or form, and no verdict is given past a word that may mean
another thing, wherever it stands and however the part is said.

What a telephone says: a machine by name, maker or mark; a part by number (in one piece or apart, small or capital), by a
printed label, by words; fillers; and strangers between them: another version, a denial, another maker, another machine, a
brand nobody has, a figure that is not so of the part.
"""

import random

from hypothesis import given
from hypothesis import strategies as st

from insertum.core.ask.meaning import understand
from insertum.core.errors import InputError

from .test_ask import DROVER, HOUSE, LIBRARY, LISTED, MK2, PARTS

#: How one says a machine, with the configuration it is.
MACHINES = [
    ("Drover 14", DROVER), ("veyra drover 14", DROVER), ("DROVER14", DROVER), ("VD14-R3", DROVER), ("4VD320", DROVER),
    ("Drover 14 Rill 320", DROVER), ("Strand 15 mk II", MK2), ("VB-S15 rev 3", MK2),
]  # fmt: skip
#: How one says a part: by number, by label, by words. Never two of one kind in one question.
PARTS_SAID = [
    "WH4-1T0-80M", "wh4 1t0 80m", "OM4S-16G26", "AP-DR45", "LR-AX2-E30", "WH4-1T0-80M 1TB NVMe",
    "16GB 2Rx8 PC4-3200AA-SE1-11", "16GB DDR4-3200", "8 GB DDR4-2666 SO-DIMM", "1TB NVMe PCIe 4 x4 M.2 2280-S3-M",
    "1TB NVMe M.2 2280", "500GB SATA 2.5-inch 7mm", "16GB DDR4 Orrin", "WiFi 6 Larkfield", "Orrin 16GB DDR4-3200",
]  # fmt: skip
STRANGERS = [
    "Mk3", "mk III", "2019", "G9", "rev 9", "Zorvex", "Proline", "not", "no", "without", "isn't", "nicht", "kein", "sans",
    "instead", "Halden", "Cairn 14", "QX-000-1", "2400-XYZ", "ex", "minus",
]  # fmt: skip
FILLERS = ["", "will the", "does a", "please", "the laptop", "is there a slot for"]
JOINTS = [", ", " in a ", " ", "; ", "\n", " into my ", "? "]


def question(r: random.Random) -> tuple[str, str, list[str]]:
    """A question with its machine, its part, and its words in order."""
    machine, name = r.choice(MACHINES)
    part = r.choice(PARTS_SAID)
    first, second = r.sample([machine, part], 2)
    said = f"{r.choice(FILLERS)} {first}{r.choice(JOINTS)}{second}".strip()
    return said, name, [first, second]


@given(st.integers(0, 10**9))
def test_what_is_meant_hangs_on_no_order_and_no_joint(seed: int) -> None:
    r = random.Random(seed)
    said, name, pair = question(r)
    found, plain = understand(said, LIBRARY, LISTED), understand(", ".join(pair[::-1]), LIBRARY, LISTED)
    assert not found.is_open, (said, found.unread, found.says)
    assert found.machines == (name,), said
    assert bool(found.parts) != bool(found.offered), said

    def label(of: dict | None) -> dict | None:
        return of and {k: v for k, v in of.items() if k != "number"}  # the number is the text as it was typed

    assert (found.parts, label(found.offered)) == (plain.parts, label(plain.offered)), said


@given(st.integers(0, 10**9))
def test_no_verdict_is_given_past_a_stranger(seed: int) -> None:
    r = random.Random(seed)
    said, _, _ = question(r)
    words = said.split(" ")
    stranger = r.choice(STRANGERS)
    at = r.randrange(len(words) + 1)
    asked = " ".join([*words[:at], stranger, *words[at:]])
    found = HOUSE.ask(asked)
    assert not (found.seats or found.machines or found.places or found.says), (asked, found.meaning)
    assert found.meaning.is_open


@given(st.integers(0, 10**9))
def test_a_machine_or_a_part_alone_is_not_answered_past_a_stranger(seed: int) -> None:
    r = random.Random(seed)
    alone = r.choice([m for m, _ in MACHINES] + PARTS_SAID)
    # Beside a part another machine is no stranger: it is the other half of a question.
    stranger = r.choice([s for s in STRANGERS if alone not in PARTS_SAID or s != "Cairn 14"])
    for asked in (f"{alone} {stranger}", f"{stranger} {alone}", f"part {alone} {stranger}"):
        found = HOUSE.ask(asked)
        assert not (found.seats or found.machines or found.places or found.says), (asked, found.meaning)


@given(st.integers(0, 10**9), st.text(max_size=20))
def test_nothing_that_is_typed_breaks_a_question(seed: int, odd: str) -> None:
    r = random.Random(seed)
    numbers = [p.number for p in r.sample(list(PARTS), 2)]
    pool = (
        [m for m, _ in MACHINES]
        + PARTS_SAID
        + STRANGERS
        + FILLERS
        + numbers
        + [n.lower().replace("-", " ") for n in numbers]
        + [odd, "part"]
    )
    asked = r.choice((" ", ", ", "")).join(r.sample(pool, r.randrange(1, 5)))
    try:
        found = HOUSE.ask(asked)
    except InputError:
        return
    assert set(found.meaning.parts) <= set(PARTS.by_number)
    assert not found.meaning.is_open or not found.seats
