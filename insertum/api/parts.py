"""Parts: the catalogue, import and export, the supplier, the shelf, and where a part goes in."""

import json
from collections.abc import Iterator
from typing import Any

from django.db import OperationalError
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import File, Form, Query, Router, Status, UploadedFile
from pydantic import Field

from ..core.errors import Code, InputError
from ..core.frozen import Frozen
from ..core.machine.claim import Limits
from ..core.machine.part import Accessory
from ..core.survey.recognise import Recognised
from ..formats.json_errors import RowsRefused, parsed, shaped, text_of
from ..formats.part_fields import PartField
from ..formats.parts import write_csv, write_parts_json
from ..shop.services import (
    machines,
    parts,
    save_part,
    shelf,
    show_parts,
    supplier,
    supplier_lists,
    wishes,
    workshop,
    workshop_tasks,
)
from ..shop.services.history import acting
from .door import no_room
from .download import download
from .shapes import Problem, ProblemRow

router = Router()


@router.get("/parts", response=list[show_parts.PartLine])
def list_parts(request: HttpRequest):
    """Every part in a line: number, kind, what it is, price in minor units, offers and stock."""
    return HttpResponse(show_parts.listed(), content_type="application/json")


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
    """Bring in a parts file (CSV or JSON): all rows or none, with every row's problem."""
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
        """Progress as it is made, a JSON line each; the last one is the report or the problem."""
        try:
            with acting(request.user):  # the answer is made while it is sent, after the request itself has ended
                for progress in wishes.then_look(supplier_lists.take(data, where, told)):
                    yield progress.model_dump_json() + "\n"
        except InputError as error:
            rows = error.problems if isinstance(error, RowsRefused) else []
            unsound = tuple(ProblemRow(row=r, column=c, what=w) for r, c, w in rows[:500])
            problem = Problem(what=error.what, where=error.where, mend=error.mend, code=error.code, rows=unsound)
            yield json.dumps({"problem": problem.model_dump(mode="json")}) + "\n"
        except (OperationalError, OSError) as error:  # the transaction has taken everything back
            _, what, mend = no_room(error)
            yield (
                json.dumps(
                    {
                        "problem": Problem(what=what, where=where, mend=mend, code=Code.UNAVAILABLE).model_dump(
                            mode="json"
                        )
                    }
                )
                + "\n"
            )

    return StreamingHttpResponse(lines(), content_type="application/x-ndjson")


@router.get("/parts/form", response=dict[str, list[PartField]])
def part_form(request: HttpRequest):
    """What one types for a part, by kind."""
    return show_parts.form()


class TypedPart(Frozen):
    """A part by its columns as people write them, an empty one unknown. ``base`` is what stood there when the typing
    began; None takes it over whatever stands there now."""

    cells: dict[str, str]
    base: dict[str, str] | None = None
    new: bool = False


@router.put("/parts/saved", response={200: parts.ImportReport, 400: Problem})
def save_typed_part(request: HttpRequest, body: TypedPart):
    """Keep a part as it was typed; what it is offered for stays."""
    return save_part.save_typed(body.cells, body.base, body.new)


class NewPart(Frozen):
    """A part as the parts format holds it."""

    part: dict[str, Any]


@router.post("/parts/new", response={200: parts.ImportReport, 400: Problem})
def new_part(request: HttpRequest, body: NewPart):
    """Keep a part that was typed in; a number that is there already is refused."""
    return save_part.save_new(body.part)


@router.get("/parts/decode", response=Recognised)
def decode_label(request: HttpRequest, text: Query[str]):
    """What a label says while it is typed."""
    return show_parts.label_says(text)


@router.get("/parts.csv", include_in_schema=False)
def parts_csv(request: HttpRequest) -> HttpResponse:
    """The catalogue as CSV, a column an attribute."""
    return download(write_csv(parts.catalogue()), "parts.csv", "text/csv")


@router.get("/parts.json", include_in_schema=False)
def parts_json(request: HttpRequest) -> HttpResponse:
    """The catalogue as JSON."""
    return download(write_parts_json(parts.catalogue()), "parts.json", "application/json")


# -- what the workshop asks ----------------------------------------------------------------------
@router.get("/workshop", response=workshop.Workshop)
def get_workshop(request: HttpRequest):
    """The workshop's settings."""
    return workshop.workshop()


@router.get("/workshop/tasks", response=list[workshop_tasks.TaskLine])
def list_tasks(request: HttpRequest):
    """Work the workshop offers besides upgrades, with its minutes and prices."""
    return workshop_tasks.every_task()


@router.put("/workshop", response={200: workshop.Workshop, 400: Problem})
def put_workshop(request: HttpRequest, body: workshop.Workshop):
    """Keep the workshop's settings whole."""
    return workshop.save_workshop(body, request.user)


# -- the supplier -------------------------------------------------------------------------------
@router.post("/parts/refresh", response={200: supplier.Refreshed, 400: Problem})
def refresh(request: HttpRequest):
    """Ask the supplier's service for today's prices; parts it does not name keep theirs with their date."""
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
    """What lies on the shelf: units with origin, condition, erasure and price in minor units."""
    return _shelf()


@router.post("/shelf", response={200: ShelfView, 400: Problem})
def put_on_shelf(request: HttpRequest, body: ToShelf):
    """Put one unit on the shelf by its part number."""
    if not body.number.strip():
        raise InputError("no part number", "shelf", "Type or scan the number on the part.")
    shelf.put(body.number.strip(), body.origin, body.condition, body.note, request.user)
    return _shelf()


@router.post("/shelf/{int:id}", response={200: ShelfView, 400: Problem})
def change_on_shelf(request: HttpRequest, id: int, body: OnShelfChange):
    """Change one unit: condition, erasure, state, note, price in minor units."""
    shelf.change(id, body.condition, body.erased, body.erased_note, body.state, body.note, body.price_minor)
    return _shelf()


@router.post("/jobs/{int:number}/shelf", response={200: ShelfView, 400: Problem, 404: Problem})
def shelf_from_job(request: HttpRequest, number: int):
    """Put what the job's plan takes out on the shelf."""
    shelf.put_from_job(number, request.user)
    return _shelf()


# -- one part -----------------------------------------------------------------------------------
@router.get("/parts/{path:number}/machines", response={200: list[show_parts.GoesIn], 400: Problem, 404: Problem})
def goes_in(request: HttpRequest, number: str, limits: Query[Limits] = Limits.PROVEN):
    """The other way round: which of the library's machines does this part go in?"""
    part = parts.part_of(number)
    if part is None:
        return Status(404, Problem(what=f"no part {number}", where="parts", code=Code.MISSING))
    return show_parts.goes_in(part, limits)


@router.get("/parts/{path:number}/why", response={200: show_parts.WhyHere, 400: Problem, 404: Problem})
def why_here(
    request: HttpRequest, number: str, machine: Query[str], configuration: Query[str], slot: Query[str],
    limits: Query[Limits] = Limits.PROVEN,
):  # fmt: skip
    """Why the part does what it does there."""
    part, whole = parts.part_of(number), machines.machine_of(machine)
    if part is None or whole is None or isinstance(part, Accessory):
        return Status(404, Problem(what=f"no part {number}, or no machine {machine}", where="parts", code=Code.MISSING))
    return show_parts.why_here(part, whole, configuration, slot, limits)


@router.get("/parts/{path:number}", response={200: show_parts.PartPage, 404: Problem})
def get_part(request: HttpRequest, number: str):
    """One part's page: its attributes, offers, where it fits in the library and where it was tried."""
    part = parts.part_of(number)
    if part is None:
        return Status(
            404,
            Problem(what=f"no part {number}", where="parts", mend="Go back to the list of parts.", code=Code.MISSING),
        )
    return show_parts.page(part)
