"""Processors: the library all machines share, a page of ten fields each, import and export."""

import json
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Body, File, Query, Router, UploadedFile

from ..core.errors import InputError
from ..core.frozen import Frozen
from ..core.machine.processor import Processor, named_by
from ..core.survey.draft import slug
from ..formats.json_errors import text_of
from ..shop.services import machines, processors
from .download import download
from .shapes import Choice, Problem

router = Router()


class ProcessorLine(Frozen):
    """A processor and the configurations that name it."""

    processor: Processor
    machines: tuple[Choice, ...]


class ProcessorPage(ProcessorLine):
    changes: tuple[processors.ProcessorChange, ...]


class ProcessorList(Frozen):
    """``missing`` are processors that machines name and the library lacks."""

    lines: tuple[ProcessorLine, ...]
    missing: tuple[str, ...]


@router.get("/processors", response=ProcessorList)
def every_processor(request: HttpRequest):
    known = processors.processors()
    named: dict[str, list[Choice]] = {p.id: [] for p in known}
    missing: dict[str, None] = {}
    for machine, c in machines.library().every:
        found = named_by(c, known)
        if found:
            named[found.id].append(Choice(number=f"{machine.id}/{c.id}", name=f"{machine.maker} {c.name}"))
        elif c.processor and c.processor != "unknown":
            missing[c.processor] = None
    lines = tuple(ProcessorLine(processor=p, machines=tuple(named[p.id])) for p in known)
    return ProcessorList(lines=lines, missing=tuple(missing))


@router.get("/processors/file", include_in_schema=False)
def processor_file(request: HttpRequest) -> HttpResponse:
    every = [p.model_dump(mode="json") for p in processors.processors()]
    text = json.dumps({"format": "insertum-processors/1", "processors": every}, indent=1, ensure_ascii=False)
    return download(text, "processors.json", "application/json")


@router.put("/processors/saved", response={200: Processor, 400: Problem})
def save_processor(request: HttpRequest, data: Body[dict[str, Any]], new: Query[bool] = False):
    """Keep a processor; a new one's id follows its name."""
    if new:
        data = {**data, "id": slug(str(data.get("name", "")))}
    return processors.save_processor(data, request.user, new)


@router.post("/processors/import", response={200: processors.ProcessorReport, 400: Problem})
def import_processors(request: HttpRequest, file: File[UploadedFile]):
    name = file.name or "processor file"
    return processors.import_processors(text_of(file.read(), name), name, request.user)


# Last: "saved" is no processor.
@router.get("/processors/{slug}", response={200: ProcessorPage, 400: Problem})
def one_processor(request: HttpRequest, slug: str):
    line = next((x for x in every_processor(request).lines if x.processor.id == slug), None)
    if line is None:
        raise InputError(f"no processor {slug!r}", "processors", "Choose one of the library, or add it.")
    return ProcessorPage(**dict(line), changes=processors.changes_of(slug))
