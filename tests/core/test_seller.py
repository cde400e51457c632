"""What a seller is asked: only what is open of the part, and nothing of the machine."""

import pytest

from insertum.core.survey.seller import seller_message

from . import made

OPEN = made.module("OR4S", name="Orrin 16 GB", ranks=None, chip_width=None)


@pytest.mark.parametrize(
    ("part", "asks", "lines"),
    [
        (OPEN, ["part.ranks", "memory.total_limit_gb", "part.chip_width", "part.ranks"], ["1. Ranks?", "2. Chip width?"]),
        (made.radio(), ["part.drivers"], ["1. Is there a driver for Harbour 4, and does it lack anything there?"]),
        (made.drive("D", interface=None), ["part.interface"], ["1. Drive's interface: pcie or sata?"]),
        (made.drive("D", above_um=None), ["part.above_um"], ["1. Height on top, in mm?"]),
    ],
)  # fmt: skip
def test_the_message_holds_what_is_open(part, asks, lines) -> None:
    found = seller_message(part, asks, "Harbour 4")
    assert found is not None and found.text.splitlines()[1:-1] == lines
    assert found.text.startswith(f"Before we order {part.number}") and len(found.asks) == len(lines)


def test_nothing_open_of_the_part_is_no_message() -> None:
    assert seller_message(OPEN, ["memory.total_limit_gb", "fitted.memory-a"]) is None
