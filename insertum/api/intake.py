"""Intake: the choices it offers, what follows from them, and the workshop's triage list."""

from django.http import HttpRequest, HttpResponse
from ninja import File, Router, UploadedFile

from ..core.frozen import Frozen
from ..core.intake.intake import derive_needs
from ..core.intake.load import LoadSays
from ..core.intake.presets import PRESETS
from ..core.intake.purchase import PurchaseAdvice, advice
from ..core.intake.triage import Complaint, Triage, Tried
from ..core.plan.answer import today
from ..core.plan.need import LABELS, UNITS
from ..core.plan.result import NeedState
from ..core.tasks.catalogue import CATALOGUE
from ..formats.json_errors import text_of
from ..shop.services import jobs, triage
from ..shop.services.answer_cache import answered
from .download import download
from .shapes import NeedView, Problem

router = Router()
#: Tasks by id, as a cause names the one that mends it.
CURES = {t.id: t.name for t in CATALOGUE}


class IntakeView(Frozen):
    """The choices intake offers, and the needs that follow from what is entered. ``advice`` is for a
    machine that is not bought yet."""

    uses: dict[str, str]
    complaints: tuple[Complaint, ...]
    tried: dict[str, Tried]
    cures: dict[str, str]
    needs: tuple[NeedView, ...]
    today: tuple[NeedState, ...]
    load: LoadSays
    slots: dict[str, str]
    advice: tuple[PurchaseAdvice, ...]


@router.get("/jobs/{int:number}/intake", response={200: IntakeView, 404: Problem})
def intake(request: HttpRequest, number: int):
    desk = jobs.desk_of(number)
    known = desk.machine is not None and bool(desk.job.identify.configuration)
    needs = desk.needs if known else derive_needs(desk.job.intake, None, desk.complaints, desk.load)
    return IntakeView(
        uses={k: p.name for k, p in PRESETS.items()},
        complaints=tuple(desk.complaints.values()),
        tried=triage.outcomes(),
        cures=CURES,
        needs=tuple(NeedView(need=n, label=LABELS[n.kind], unit=UNITS[n.kind]) for n in needs),
        today=answered("needs today", number, lambda: today(desk.request([]))) if known else (),
        load=desk.load,
        slots={x.id: x.name for x in desk.configured.slots} if known else {},
        advice=advice(desk.plain) if known and desk.job.intake.owned == "not_bought" else (),
    )


class TriageView(Frozen):
    """The workshop's list, how often each cause was it, and what a complaint may weigh."""

    triage: Triage
    tried: dict[str, Tried]
    needs: dict[str, str]
    cures: dict[str, str]


@router.get("/triage", response=TriageView)
def get_triage(request: HttpRequest):
    return TriageView(
        triage=Triage(complaints=tuple(triage.complaints().values())),
        tried=triage.outcomes(),
        needs={k: v for k, v in LABELS.items() if k != "fault"},
        cures=CURES,
    )


class KeptComplaint(Frozen):
    """``base`` is the complaint as it stood when the typing began; None takes it over whatever stands there now."""

    complaint: Complaint
    base: Complaint | None = None


@router.put("/triage/complaints", response={200: TriageView, 400: Problem})
def put_complaint(request: HttpRequest, body: KeptComplaint):
    triage.save_complaint(body.complaint, body.base)
    return get_triage(request)


@router.delete("/triage/complaints/{slug}", response={200: TriageView, 400: Problem})
def delete_complaint(request: HttpRequest, slug: str):
    triage.remove_complaint(slug)
    return get_triage(request)


@router.post("/triage/import", response={200: TriageView, 400: Problem})
def import_triage(request: HttpRequest, file: File[UploadedFile]):
    name = file.name or "triage file"
    triage.replace_triage(text_of(file.read(), name), name)
    return get_triage(request)


@router.get("/triage/file", include_in_schema=False)
def triage_file(request: HttpRequest) -> HttpResponse:
    whole = Triage(complaints=tuple(triage.complaints().values()))
    return download(whole.model_dump_json(indent=1), "triage.json", "application/json")
