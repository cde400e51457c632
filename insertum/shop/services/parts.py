"""The parts catalogue: read it, see what an import would change, import with progress."""

from collections.abc import Generator, Iterator, Mapping, Sequence
from typing import Any, NamedTuple

from django.db import transaction

from ...core.catalogue import Catalogue
from ...core.document_diff import changed as what_changed
from ...core.errors import InputError
from ...core.find import Listed, listed
from ...core.frozen import Frozen
from ...core.machine.part import AnyPart
from ...formats.json_errors import MAX_BYTES
from ...formats.parts import PART, read_parts, read_steps
from .. import models
from .history import logged
from .table_cache import Kept
from .unreadable import readable

WRITTEN_AT_ONCE = 500
#: Of a list the history names so many parts of those that are new, and as many of those it changes.
LOGGED = 100
_catalogue: Kept[Catalogue] = Kept(
    (models.Part,),
    lambda: Catalogue(readable(models.Part.objects.values_list("spec", flat=True), PART.validate_python)),
)


class ImportReport(Frozen):
    added: int
    changed: int
    same: int


class Progress(Frozen):
    """Where an import stands. ``report`` is there at the end, and only when all of it is kept."""

    says: str
    done: int
    of: int
    report: ImportReport | None = None


class PartChange(Frozen):
    """What an import would do to one part; ``fields`` are (name, before, after)."""

    number: str
    name: str
    new: bool
    fields: tuple[tuple[str, str, str], ...]


class Preview(Frozen):
    """What an import would do."""

    report: ImportReport
    changes: tuple[PartChange, ...]


class PriceSeen(Frozen):
    shop: str
    price_minor: int
    stock: int | None
    at: str


def catalogue() -> Catalogue:
    """Every part, as the core knows it."""
    return _catalogue.get()


_findable: Kept[list[Listed]] = Kept((models.Part,), lambda: listed(catalogue()))


def findable() -> list[Listed]:
    """The catalogue ready to be found in."""
    return _findable.get()


def part_of(number: str) -> AnyPart | None:
    """The part of this number, None where the catalogue has none."""
    row = models.Part.objects.filter(number=number).values_list("spec", flat=True).first()
    return PART.validate_python(row) if row else None


def preview(text: str) -> Preview:
    """What an import of our own columns would change, without changing it. Raises what reading raises."""
    return previewed(read_parts(text))


def bounded(data: bytes, where: str) -> bytes:
    """``data``, if it is not larger than a file may be. Raises :class:`InputError`."""
    if len(data) > MAX_BYTES:
        raise InputError(f"{len(data) / 2**20:.0f} MB, at most {MAX_BYTES // 2**20} MB are read", where, "Split it.")
    return data


def previewed(parts: Sequence[AnyPart], shown: int = 200) -> Preview:
    """What taking these parts in would change."""
    report, added, changed, _ = _compared(parts)
    known = dict(
        models.Part.objects.filter(number__in=[p.number for p, _ in changed[:shown]]).values_list("number", "spec")
    )
    changes = [PartChange(number=p.number, name=p.name, new=True, fields=()) for p, _ in added[:shown]]
    changes += [
        PartChange(number=p.number, name=p.name, new=False, fields=_fields(known[p.number], spec))
        for p, spec in changed[:shown]
    ]
    return Preview(report=report, changes=tuple(changes[:shown]))


def _fields(before: dict[str, Any], after: dict[str, Any]) -> tuple[tuple[str, str, str], ...]:
    names = [n for n in after if before.get(n) != after[n]]
    return tuple((n, _short(before.get(n)), _short(after[n])) for n in names)


def _short(value: Any) -> str:
    if isinstance(value, list) and value and isinstance(value[0], dict):
        return ", ".join(f"{o.get('shop')} {o.get('price_minor', 0) / 100:.2f}" for o in value)
    return "unknown" if value is None else str(value)[:80]


#: Price and stock by shop.
Asked = dict[str, tuple[int, int | None]]
#: A part with its spec as it is kept.
Dumped = tuple[AnyPart, dict[str, Any]]


class _Compared(NamedTuple):
    """What is new and what is another, and what the changed ones' offers asked."""

    report: ImportReport
    added: list[Dumped]
    changed: list[Dumped]
    asked: dict[str, Asked]


def _compared(parts: Sequence[AnyPart]) -> _Compared:
    known = dict(models.Part.objects.values_list("number", "spec"))
    added, changed = list[Dumped](), list[Dumped]()
    for part in parts:
        spec, stands = part.model_dump(mode="json"), known.get(part.number)
        if stands is None:
            added.append((part, spec))
        elif stands != spec:
            changed.append((part, spec))
    report = ImportReport(added=len(added), changed=len(changed), same=len(parts) - len(added) - len(changed))
    return _Compared(report, added, changed, {p.number: offers_of(known[p.number]) for p, _ in changed})


def import_parts(text: str) -> ImportReport:
    """Import parts from CSV or JSON, all or nothing. Parts that are there already are replaced."""
    report = [p.report for p in import_steps(text) if p.report]
    return report[0]


def import_steps(text: str) -> Iterator[Progress]:
    """Import, saying where it stands. Everything is read and checked before anything is written, and
    what is written is one transaction: stopped half-way, nothing of it is kept."""
    whole = max(text.count("\n"), 1)
    steps = read_steps(text)
    parts: list[AnyPart] = []
    while True:
        try:
            yield Progress(says="reading", done=min(next(steps), whole), of=whole)
        except StopIteration as done:
            parts = done.value
            break
    yield from kept(parts)


def kept(parts: Sequence[AnyPart]) -> Iterator[Progress]:
    """Keep parts in one transaction, saying where it stands."""
    with transaction.atomic():
        report, added, changed, asked = _compared(parts)
        if len(parts) == 1 and (added or changed):
            was = models.Part.objects.filter(number=parts[0].number).values_list("spec", flat=True).first()
            how = "added" if added else "changed"
            logged("part", parts[0].number, f"part {parts[0].number} {how}", was, parts[0].model_dump(mode="json"))
        elif added or changed:
            says = f"{len(added)} parts added and {len(changed)} changed from a list"
            logged("part", "", says, *_from_to(added[:LOGGED], changed[:LOGGED]))
        yield from _written(added, changed, asked)
    yield Progress(says="done", done=len(parts), of=len(parts), report=report)


def _from_to(added: Sequence[Dumped], changed: Sequence[Dumped]) -> tuple[dict[str, Any], dict[str, Any]]:
    """What stood and what stands of each part that a list changes, by its number."""
    was = dict(models.Part.objects.filter(number__in=[p.number for p, _ in changed]).values_list("number", "spec"))
    places = {p.number: what_changed(was[p.number], spec) for p, spec in changed}
    after = {p.number: "added" for p, _ in added} | {n: then for n, (_, then) in places.items()}
    return {n: before for n, (before, _) in places.items()}, after


def _written(
    added: Sequence[Dumped], changed: Sequence[Dumped], asked: Mapping[str, Asked]
) -> Generator[Progress, None, None]:
    of, done = len(added) + len(changed), 0
    for chunk in _chunks(added):
        models.Part.objects.bulk_create([_row(*p) for p in chunk])
        models.PricePoint.objects.bulk_create(points([p for p, _ in chunk]))
        done += len(chunk)
        yield Progress(says="writing", done=done, of=of)
    for chunk in _chunks(changed):
        models.Part.objects.bulk_create(
            [_row(*p) for p in chunk], update_conflicts=True, unique_fields=["number"],
            update_fields=["kind", "maker", "name", "price_minor", "spec", "updated"],
        )  # fmt: skip
        models.PricePoint.objects.bulk_create(points([p for p, _ in chunk], asked))
        done += len(chunk)
        yield Progress(says="writing", done=done, of=of)


def _chunks(parts: Sequence[Dumped]) -> Iterator[Sequence[Dumped]]:
    for i in range(0, len(parts), WRITTEN_AT_ONCE):
        yield parts[i : i + WRITTEN_AT_ONCE]


def _row(part: AnyPart, spec: dict[str, Any]) -> models.Part:
    return models.Part(
        number=part.number, kind=part.kind, maker=part.maker, name=part.name, price_minor=part.price_minor, spec=spec
    )


def offers_of(spec: dict[str, Any]) -> Asked:
    """Price and stock by shop, as a part's spec has them."""
    return {o["shop"]: (o["price_minor"], o["stock"]) for o in spec.get("offers", ())}


def points(parts: Sequence[AnyPart], before: Mapping[str, Asked] | None = None) -> list[models.PricePoint]:
    """Price points for offers that are new or ask something else than before."""
    return [
        models.PricePoint(part=p.number, shop=o.shop, price_minor=o.price_minor, stock=o.stock)
        for p in parts
        for o in p.offers
        if o.buys_one and (before or {}).get(p.number, {}).get(o.shop) != (o.price_minor, o.stock)
    ]


def save_part(part: AnyPart) -> None:
    """Add or replace one part."""
    list(import_steps(f"[{part.model_dump_json()}]"))


def price_history(number: str) -> tuple[PriceSeen, ...]:
    """What each offer of a part asked, oldest first."""
    return tuple(
        PriceSeen(shop=p.shop, price_minor=p.price_minor, stock=p.stock, at=p.at.isoformat(timespec="minutes"))
        for p in models.PricePoint.objects.filter(part=number)
    )
