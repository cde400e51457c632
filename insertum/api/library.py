"""Machines and parts: list, import, export."""

from django.http import HttpRequest, HttpResponse
from ninja import File, Router, UploadedFile

from ..core.base import Frozen
from ..core.identify.matters import matters
from ..core.job.slots import MapView, detail, map_view
from ..core.survey.bench import build_today
from ..formats.checked import text_of
from ..formats.parts import write_csv, write_parts_json
from ..shop.services import machines, parts
from .shapes import Problem

router = Router()


class ConfigurationView(Frozen):
    machine: str
    configuration: str
    title: str
    year: int
    processor: str
    matters: dict[str, str]
    map: MapView


class MachineLine(Frozen):
    machine: str
    name: str
    configuration: str
    title: str
    year: int
    processor: str
    unknown: int


class PartLine(Frozen):
    number: str
    name: str
    maker: str
    kind: str
    detail: str
    price_minor: int | None
    offers: tuple[str, ...]
    note: str


class Imported(Frozen):
    machines: tuple[str, ...]


@router.get("/machines", response=list[MachineLine])
def list_machines(request: HttpRequest):
    found = []
    for m in machines.library():
        for c in m.configurations:
            view = map_view(build_today(m.configured(c.id)), {}, {})
            unknown = sum(not f.known for s in view.slots for f in s.facts)
            found.append(
                MachineLine(
                    machine=m.id,
                    name=f"{m.maker} {m.name}",
                    configuration=c.id,
                    title=f"{m.maker} {c.name}",
                    year=c.year,
                    processor=c.processor,
                    unknown=unknown,
                )
            )
    return found


@router.get("/machines/{slug}/file", include_in_schema=False)  # before the next: "file" is no configuration
def machine_file(request: HttpRequest, slug: str):
    machine = machines.machine_of(slug)
    if machine is None:
        return HttpResponse(status=404)
    return _download(machine.model_dump_json(indent=1), f"{slug}.json", "application/json")


@router.get("/machines/{slug}/{configuration}", response={200: ConfigurationView, 400: Problem, 404: Problem})
def get_configuration(request: HttpRequest, slug: str, configuration: str):
    machine = machines.machine_of(slug)
    if machine is None:
        return 404, Problem(what=f"no machine {slug}", where="machines")
    laid = machine.configured(configuration)
    return ConfigurationView(
        machine=slug,
        configuration=configuration,
        title=laid.title,
        year=laid.configuration.year,
        processor=laid.configuration.processor,
        matters=matters(laid),
        map=map_view(build_today(laid), {}, {}),
    )


@router.post("/machines/import", response={200: Imported, 400: Problem})
def import_machines(request: HttpRequest, file: File[UploadedFile]):
    name = file.name or "machine file"
    return Imported(machines=tuple(machines.import_machines(text_of(file.read(), name), name)))


@router.get("/parts", response=list[PartLine])
def list_parts(request: HttpRequest):
    return [
        PartLine(
            number=p.number,
            name=p.name,
            maker=p.maker,
            kind=p.kind,
            detail=p.supplies if p.kind == "accessory" else detail(p),
            price_minor=p.price_minor,
            offers=tuple(f"{o.shop} {o.price_minor / 100:.2f}" for o in p.offers),
            note=p.note,
        )
        for p in parts.catalogue()
    ]


@router.post("/parts/import", response={200: parts.ImportReport, 400: Problem})
def import_parts(request: HttpRequest, file: File[UploadedFile]):
    return parts.import_parts(text_of(file.read(), file.name or "parts file"))


@router.get("/parts.csv", include_in_schema=False)
def parts_csv(request: HttpRequest):
    return _download(write_csv(parts.catalogue()), "parts.csv", "text/csv")


@router.get("/parts.json", include_in_schema=False)
def parts_json(request: HttpRequest):
    return _download(write_parts_json(parts.catalogue()), "parts.json", "application/json")


def _download(text: str, name: str, kind: str) -> HttpResponse:
    return HttpResponse(text, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})
