"""Find by label: a part, a machine, a job, or what a code decodes to."""

from typing import Any

from django.http import HttpRequest
from ninja import Query, Router

from ..core.base import Frozen, InputError
from ..core.decode import decode
from ..core.identify.identify import identify
from ..core.identify.match import folded
from ..shop.services import jobs, machines, parts

router = Router()


class Found(Frozen):
    kind: str
    title: str
    detail: str
    link: str


class Findings(Frozen):
    found: tuple[Found, ...]
    decoded: dict[str, Any] | None
    problem: str


@router.get("/find", response=Findings)
def find(request: HttpRequest, text: Query[str]):
    wanted = folded(text)
    found: list[Found] = []
    if len(wanted) >= 2:
        found += [
            Found(kind="part", title=p.name, detail=p.number, link=f"/parts?number={p.number}")
            for p in parts.catalogue()
            if wanted in folded(p.number) or wanted in folded(p.name)
        ][:8]
        ranked = identify([text], machines.library())
        found += [
            Found(kind="machine", title=c.title, detail=c.processor, link=f"/machines/{c.machine}/{c.configuration}")
            for c in ranked.candidates
            if f"{c.machine}/{c.configuration}" in ranked.remaining
        ]
        found += [
            Found(kind="job", title=f"{j.number} {j.title}", detail=j.customer, link=f"/jobs/{j.number}")
            for j in jobs.lines()
            if wanted in folded(j.customer) or wanted in folded(j.title) or wanted == str(j.number)
        ][:6]
    try:
        return Findings(found=tuple(found), decoded=decode(text), problem="")
    except InputError as error:
        return Findings(found=tuple(found), decoded=None, problem=str(error))
