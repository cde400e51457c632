"""A label, whole or torn, never proves more than the part it is on."""

import csv
import json
from itertools import combinations

import pytest

from insertum.core.fit.judge import judge, kind_fits
from insertum.core.fit.matrix_cache import Bench
from insertum.core.machine.drive_parts import BayDrive, M2Drive
from insertum.core.survey.current_build import build_today
from insertum.core.survey.recognise import recognise
from insertum.core.verdict import Verdict
from insertum.formats.json_errors import rows_of
from insertum.formats.parts import PART

from .test_formats import BY_NUMBER, CONFIGURATIONS, DATA, PARTS

BENCHES = [Bench(build_today(m.configured(c)), ()) for m, c in CONFIGURATIONS]
PRINTED = {r["number"]: r for r in csv.DictReader((DATA / "parts.csv").open())}


def label_of(number: str) -> str:
    """What stands on the part: the standard's label for memory, size, interface and code for a drive."""
    part, row = BY_NUMBER[number], PRINTED[number]
    if isinstance(part, M2Drive) and row["code"]:
        bus = f"NVMe PCIe {part.generation}x{part.lanes}" if part.interface == "pcie" else "SATA"
        return f"{part.capacity_gb}GB {bus} {row['code']}"
    if isinstance(part, BayDrive) and part.height_um:
        return f"{part.capacity_gb}GB SATA {part.height_um / 1000:g}mm"
    return row["label"]


LABELS = {label: n for n in PRINTED if (label := label_of(n))}


def torn(label: str):
    """The label, every way to lose one or two of its words, and every place where it may be cut off."""
    words = label.split()
    yield from (label[:n] for n in range(3, len(label)))
    for lost in range(3):
        for kept in combinations(words, len(words) - lost):
            yield " ".join(kept)


@pytest.mark.parametrize("label", sorted(LABELS))
def test_what_a_label_offers_seats_only_where_its_part_does(label) -> None:
    whole = BY_NUMBER[LABELS[label]]
    # Many ways to tear it leave the same to read.
    read = {json.dumps(o, sort_keys=True): (text, o) for text in torn(label) if (o := recognise(text, []).offered)}
    for text, offered in read.values():
        (part,) = rows_of(PART, [(1, offered)])
        assert part.kind == whole.kind
        for bench in BENCHES:
            for slot in (s for s in bench.build.machine.slots if kind_fits(s, part)):
                (less, *_), *_ = bench.judged(slot, part)
                if less in (Verdict.SEATS, Verdict.HELD_BACK):
                    truth = judge(bench.build, slot.id, whole).verdict
                    assert truth is not None and truth.rank <= less.rank, (text, bench.build.machine.id, slot.id)
    assert read


def test_every_kind_with_a_printed_label_is_covered() -> None:
    kinds = {BY_NUMBER[n].kind for n in LABELS.values()}
    assert {"memory", "m2_drive", "bay_drive"} <= kinds and len(LABELS) > 40 and len(PARTS) > len(LABELS)
