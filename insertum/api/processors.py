"""Processors: the library all machines share, a page of ten fields each, import and export."""

import json
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Body, File, Query, Router, UploadedFile

from ..core.machine.processor import Processor
from ..formats.json_errors import text_of
from ..shop.services import processors, show_processors
from .download import download
from .shapes import Problem

router = Router()


@router.get("/processors", response=show_processors.ProcessorList)
def every_processor(request: HttpRequest):
    """Every processor of the library, and names machines carry that none of them answers to."""
    return show_processors.every()


@router.get("/processors/file", include_in_schema=False)
def processor_file(request: HttpRequest) -> HttpResponse:
    """The processors as a file."""
    every = [p.model_dump(mode="json") for p in processors.processors()]
    text = json.dumps({"format": "insertum-processors/1", "processors": every}, indent=1, ensure_ascii=False)
    return download(text, "processors.json", "application/json")


@router.put("/processors/saved", response={200: Processor, 400: Problem})
def save_processor(request: HttpRequest, data: Body[dict[str, Any]], new: Query[bool] = False):
    """Keep a processor; a new one's id follows its name."""
    return processors.add_processor(data, request.user) if new else processors.save_processor(data, request.user)


@router.post("/processors/import", response={200: processors.ProcessorReport, 400: Problem})
def import_processors(request: HttpRequest, file: File[UploadedFile]):
    """Bring in processors from a file: all of them or none."""
    name = file.name or "processor file"
    return processors.import_processors(text_of(file.read(), name), name, request.user)


# Last: "saved" is no processor.
@router.get("/processors/{slug}", response={200: show_processors.ProcessorPage, 400: Problem})
def one_processor(request: HttpRequest, slug: str):
    """One processor's page: its memory limits with sources, and the machines it sits in."""
    return show_processors.page(slug)
