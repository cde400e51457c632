"""Parts: catalogue and offers, import with preview and progress, the shelf, the supplier's feed."""

import json
from collections.abc import Iterator
from typing import Any

from django.db import OperationalError
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import File, Form, Query, Router, Status, UploadedFile
from pydantic import Field

from ..core.errors import InputError
from ..core.fit.judge import Judgement, judge_equipped, kind_fits
from ..core.fit.premises import Aside, why
from ..core.frozen import Frozen
from ..core.job.slots import detail
from ..core.kinds.all import KINDS
from ..core.known.known import Explained
from ..core.machine.claim import Limits
from ..core.machine.part import Accessory, Offer
from ..core.survey.current_build import build_today, laid_out
from ..core.survey.recognise import Recognised, recognise
from ..core.tasks.catalogue import CATALOGUE
from ..core.three_way_merge import both_kept, torn
from ..core.verdict import Verdict
from ..formats.json_errors import RowsRefused, parsed, shaped, text_of
from ..formats.parts import PartField, cells_of_part, fields_of, part_from, part_of_cells, write_csv, write_parts_json
from ..shop.services import jobs, machines, parts, shelf, supplier, supplier_lists, wishes, workshop
from ..shop.services.history import acting
from .door import no_room
from .download import download
from .shapes import Problem

router = Router()


class OfferView(Frozen):
    shop: str
    price_minor: int
    stock: int | None
    currency: str = ""
    pieces: int = 1
    tax: str = ""


def _offer(o: Offer) -> OfferView:
    return OfferView(
        shop=o.shop, price_minor=o.price_minor, stock=o.stock, currency=o.currency, pieces=o.pieces, tax=o.tax
    )


class PartLine(Frozen):
    number: str
    name: str
    maker: str
    kind: str
    detail: str
    price_minor: int | None
    offers: tuple[OfferView, ...]
    on_shelf: int
    note: str


def _lines() -> str:
    lying = shelf.counts()
    lines = [
        {
            "number": p.number,
            "name": p.name,
            "maker": p.maker,
            "kind": p.kind,
            "detail": detail(p),
            "price_minor": p.price_minor,
            "offers": [_offer(o).model_dump() for o in p.offers],
            "on_shelf": lying.get(p.number, 0),
            "note": p.note,
        }
        for p in parts.catalogue()
    ]
    return json.dumps(lines, separators=(",", ":"))


#: The whole catalogue as it is sent; made anew when a part or the shelf changes.
_listed = shelf.while_nothing_changes(_lines)


@router.get("/parts", response=list[PartLine])
def list_parts(request: HttpRequest):
    return HttpResponse(_listed.get(), content_type="application/json")


# -- import -------------------------------------------------------------------------------------
@router.post("/parts/preview", response={200: supplier_lists.ListPreview, 400: Problem})
def preview(
    request: HttpRequest, file: File[UploadedFile], shop: Query[str] = "", columns: Query[str] = "", currency: Query[str] = "",
    answers: Form[str] = "",
):  # fmt: skip
    """What an import would change; nothing is changed. ``shop`` is whose list it is, where it is a supplier's;
    ``columns`` which head means what, as JSON, where somebody has chosen; ``currency`` what prices without a sign are in;
    ``answers`` the fields, as JSON, of all rows that are asked for one reason."""
    return supplier_lists.preview(file.read(), file.name or "parts file", _told(shop, columns, currency, answers))


def _told(shop: str, columns: str, currency: str, answers: str) -> supplier_lists.Told:
    said = {
        "shop": shop, "columns": parsed(columns, "columns") if columns else None, "currency": currency,
        "answers": parsed(answers, "answers") if answers else {},
    }  # fmt: skip
    return shaped(supplier_lists.Told, said, "what was said of the list")


@router.post("/parts/import", response={200: parts.ImportReport, 400: Problem})
def import_parts(request: HttpRequest, file: File[UploadedFile]):
    report = parts.import_parts(text_of(file.read(), file.name or "parts file"))
    wishes.look_at_wishes()
    return report


@router.post("/parts/import/steps", include_in_schema=False)
def import_steps(
    request: HttpRequest, file: File[UploadedFile], shop: Query[str] = "", columns: Query[str] = "", currency: Query[str] = "",
    answers: Form[str] = "",
) -> StreamingHttpResponse:  # fmt: skip
    """The same with a line of JSON for each step. Whoever stops listening stops the import."""
    data, where, told = file.read(), file.name or "parts file", _told(shop, columns, currency, answers)

    def lines() -> Iterator[str]:
        try:
            with acting(request.user):  # the answer is made while it is sent, after the request itself has ended
                for progress in wishes.then_look(supplier_lists.take(data, where, told)):
                    yield progress.model_dump_json() + "\n"
        except InputError as error:
            rows = error.problems if isinstance(error, RowsRefused) else []
            problem = {"what": error.what, "where": error.where, "mend": error.mend,
                       "rows": [{"row": r, "column": c, "what": w} for r, c, w in rows[:500]]}  # fmt: skip
            yield json.dumps({"problem": problem}) + "\n"
        except (OperationalError, OSError) as error:  # the transaction has taken everything back
            _, what, mend = no_room(error)
            yield json.dumps({"problem": {"what": what, "where": where, "mend": mend, "rows": []}}) + "\n"

    return StreamingHttpResponse(lines(), content_type="application/x-ndjson")


@router.get("/parts/form", response=dict[str, list[PartField]])
def part_form(request: HttpRequest):
    """What one types for a part, by kind."""
    return {kind: list(fields_of(kind)) for kind in KINDS}


class TypedPart(Frozen):
    """A part by its columns as people write them, an empty one unknown. ``base`` is what stood there when the typing
    began; None takes it over whatever stands there now."""

    cells: dict[str, str]
    base: dict[str, str] | None = None
    new: bool = False


@router.put("/parts/saved", response={200: parts.ImportReport, 400: Problem})
def save_part(request: HttpRequest, body: TypedPart):
    """Keep a part as it was typed; what it is offered for stays."""
    cells = body.cells
    stands = parts.part_of(cells.get("number", "").strip())
    if stands is not None and body.base is not None:
        theirs = cells_of_part(stands)
        cells, both = both_kept(body.base, cells, theirs, "")
        if both:
            raise torn("this part", {n: (theirs.get(n, ""), body.cells.get(n, "")) for n in both})
    part = part_of_cells({k: v for k, v in cells.items() if v.strip()})
    before = parts.part_of(part.number)
    if body.new and before:
        raise InputError(f"{part.number} is in the catalogue already", "part number", "Open it there.")
    if before:
        part = part.model_copy(update={"offers": before.offers, "note": before.note})
    parts.save_part(part)
    return parts.ImportReport(
        added=int(not before), changed=int(bool(before) and part != before), same=int(part == before)
    )


class NewPart(Frozen):
    """A part as the parts format holds it."""

    part: dict[str, Any]


@router.post("/parts/new", response={200: parts.ImportReport, 400: Problem})
def new_part(request: HttpRequest, body: NewPart):
    part = part_from(body.part)
    if parts.part_of(part.number):
        raise InputError(
            f"{part.number} is in the catalogue already", "part number", "Give it another, or import over it."
        )
    parts.save_part(part)
    return parts.ImportReport(added=1, changed=0, same=0)


@router.get("/parts/decode", response=Recognised)
def decode_label(request: HttpRequest, text: Query[str]):
    """What a label says while it is typed."""
    return recognise(text, parts.catalogue())


@router.get("/parts.csv", include_in_schema=False)
def parts_csv(request: HttpRequest) -> HttpResponse:
    return download(write_csv(parts.catalogue()), "parts.csv", "text/csv")


@router.get("/parts.json", include_in_schema=False)
def parts_json(request: HttpRequest) -> HttpResponse:
    return download(write_parts_json(parts.catalogue()), "parts.json", "application/json")


# -- what the workshop asks ----------------------------------------------------------------------
@router.get("/workshop", response=workshop.Workshop)
def get_workshop(request: HttpRequest):
    return workshop.workshop()


class TaskLine(Frozen):
    """A task of the catalogue, with what it takes where a workshop says nothing else."""

    id: str
    name: str
    seconds: int
    consumables_minor: int
    consumables: tuple[str, ...]


@router.get("/workshop/tasks", response=list[TaskLine])
def list_tasks(request: HttpRequest):
    return [TaskLine.model_validate(t, from_attributes=True) for t in CATALOGUE]


@router.put("/workshop", response={200: workshop.Workshop, 400: Problem})
def put_workshop(request: HttpRequest, body: workshop.Workshop):
    return workshop.save_workshop(body, request.user)


# -- the supplier -------------------------------------------------------------------------------
@router.post("/parts/refresh", response={200: supplier.Refreshed, 400: Problem})
def refresh(request: HttpRequest):
    return supplier.refresh()


# -- the shelf ----------------------------------------------------------------------------------
class ToShelf(Frozen):
    number: str
    origin: str = ""
    condition: str = "untested"
    note: str = ""


class OnShelfChange(Frozen):
    condition: str
    erased: str
    erased_note: str = ""
    state: str
    note: str = ""
    price_minor: int | None = Field(None, ge=0, le=1_000_000_000)


class ShelfView(Frozen):
    parts: tuple[shelf.OnShelf, ...]
    conditions: tuple[str, ...]
    erased: tuple[str, ...]
    states: tuple[str, ...]


def _shelf() -> ShelfView:
    return ShelfView(parts=shelf.shelf(), conditions=shelf.CONDITIONS, erased=shelf.ERASED, states=shelf.STATES)


@router.get("/shelf", response=ShelfView)
def get_shelf(request: HttpRequest):
    return _shelf()


@router.post("/shelf", response={200: ShelfView, 400: Problem})
def put_on_shelf(request: HttpRequest, body: ToShelf):
    if not body.number.strip():
        raise InputError("no part number", "shelf", "Type or scan the number on the part.")
    shelf.put(body.number.strip(), body.origin, body.condition, body.note, request.user)
    return _shelf()


@router.post("/shelf/{int:id}", response={200: ShelfView, 400: Problem})
def change_on_shelf(request: HttpRequest, id: int, body: OnShelfChange):
    shelf.change(id, body.condition, body.erased, body.erased_note, body.state, body.note, body.price_minor)
    return _shelf()


@router.post("/jobs/{int:number}/shelf", response={200: ShelfView, 400: Problem, 404: Problem})
def shelf_from_job(request: HttpRequest, number: int):
    """Put what the job's plan takes out on the shelf."""
    shelf.put_from_job(number, request.user)
    return _shelf()


# -- one part -----------------------------------------------------------------------------------
class GoesIn(Frozen):
    """One slot of one configuration that the part was judged for."""

    machine: str
    configuration: str
    title: str
    slot: str
    slot_name: str
    verdict: Verdict
    short: str
    extra_minor: int


class PartPage(Frozen):
    """``cells`` is the part by its columns, as people write them; an empty one is unknown."""

    line: PartLine
    cells: dict[str, str]
    fields: tuple[PartField, ...]
    history: tuple[parts.PriceSeen, ...]


@router.get("/parts/{path:number}/machines", response={200: list[GoesIn], 400: Problem, 404: Problem})
def goes_in(request: HttpRequest, number: str, limits: Query[Limits] = Limits.PROVEN):
    """The other way round: which of the library's machines does this part go in?"""
    part = parts.part_of(number)
    if part is None:
        return Status(404, Problem(what=f"no part {number}", where="parts"))
    if isinstance(part, Accessory):
        return []
    accessories = parts.catalogue().accessories
    found = []
    for machine, c in machines.library().every:
        seen = jobs.sightings_for(machine.id, c.id)
        build = build_today(laid_out(machine.configured(c.id), seen), stance=limits, sightings=seen)
        for slot in build.machine.slots:
            if not kind_fits(slot, part) or slot.kind not in (part.kind, "bay"):
                continue
            judged = judge_equipped(build, slot.id, part, accessories)
            if judged.verdict is not None:
                found.append(
                    GoesIn(
                        machine=machine.id,
                        configuration=c.id,
                        title=build.machine.title,
                        slot=slot.id,
                        slot_name=slot.name,
                        verdict=judged.verdict,
                        short=judged.short,
                        extra_minor=judged.extra_minor,
                    )
                )
    return sorted(found, key=lambda g: (g.verdict.rank, g.title, g.slot))


class WhyHere(Frozen):
    """Everything said of a part in one slot of a machine of the library, and what it rests on."""

    judgement: Judgement
    because: tuple[Explained, ...]
    aside: tuple[Aside, ...]


@router.get("/parts/{path:number}/why", response={200: WhyHere, 400: Problem, 404: Problem})
def why_here(
    request: HttpRequest, number: str, machine: Query[str], configuration: Query[str], slot: Query[str],
    limits: Query[Limits] = Limits.PROVEN,
):  # fmt: skip
    """Why the part does what it does there."""
    part, whole = parts.part_of(number), machines.machine_of(machine)
    if part is None or whole is None or isinstance(part, Accessory):
        return Status(404, Problem(what=f"no part {number}, or no machine {machine}", where="parts"))
    seen = jobs.sightings_for(machine, configuration)
    build = build_today(laid_out(whole.configured(configuration), seen), stance=limits, sightings=seen)
    build.machine.slot(slot)
    shelf = parts.catalogue().accessories
    judged = judge_equipped(build, slot, part, shelf)
    carries, aside = why(build, judged, part, shelf)
    return WhyHere(judgement=judged, because=carries, aside=aside)


@router.get("/parts/{path:number}", response={200: PartPage, 404: Problem})
def get_part(request: HttpRequest, number: str):
    part = parts.part_of(number)
    if part is None:
        return Status(404, Problem(what=f"no part {number}", where="parts", mend="Go back to the list of parts."))
    line = PartLine(
        number=part.number,
        name=part.name,
        maker=part.maker,
        kind=part.kind,
        detail=detail(part),
        price_minor=part.price_minor,
        offers=tuple(_offer(o) for o in part.offers),
        on_shelf=shelf.counts().get(part.number, 0),
        note=part.note,
    )
    return PartPage(
        line=line, cells=cells_of_part(part), fields=fields_of(part.kind), history=parts.price_history(number)
    )
