"""The catalogue as it is looked at: its lines, one part's page, and where it goes in."""

import json

from ...core.fit.build import Build
from ...core.fit.judge import Judgement, judge_equipped, kind_fits
from ...core.fit.premises import Aside, why
from ...core.frozen import Frozen
from ...core.job.slots import detail
from ...core.kinds.all import KINDS
from ...core.known.known import Explained
from ...core.machine.claim import Limits
from ...core.machine.part import Accessory, Fittable, Part
from ...core.machine.part_base import Offer
from ...core.machine.shape import Machine
from ...core.survey.current_build import build_today, laid_out
from ...core.survey.recognise import Recognised, recognise
from ...core.verdict import Verdict
from ...formats.part_fields import PartField, fields_of
from ...formats.parts import cells_of_part
from . import jobs, machines, parts, shelf


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


def listed() -> str:
    """The lines of the whole catalogue as JSON."""
    return _listed.get()


def form() -> dict[str, list[PartField]]:
    """What one types for a part, by kind."""
    return {kind: list(fields_of(kind)) for kind in KINDS}


def label_says(text: str) -> Recognised:
    """What a label says while it is typed."""
    return recognise(text, parts.catalogue())


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


def goes_in(part: Part, limits: Limits) -> list[GoesIn]:
    """The other way round: the verdict of a part in every slot of the library's machines it is made for, best first."""
    if isinstance(part, Accessory):
        return []
    accessories = parts.catalogue().accessories
    found = []
    for machine, c in machines.library().every:
        build = _of_the_library(machine, c.id, limits)
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


def _of_the_library(machine: Machine, configuration: str, limits: Limits) -> Build:
    """A machine as it was delivered, with what this workshop saw of it."""
    seen = jobs.sightings_for(machine.id, configuration)
    return build_today(laid_out(machine.configured(configuration), seen), stance=limits, sightings=seen)


class WhyHere(Frozen):
    """Everything said of a part in one slot of a machine of the library, and what it rests on."""

    judgement: Judgement
    because: tuple[Explained, ...]
    aside: tuple[Aside, ...]


def why_here(part: Fittable, machine: Machine, configuration: str, slot: str, limits: Limits) -> WhyHere:
    """Why the part does what it does there. Raises :class:`InputError` for a slot the machine lacks."""
    build = _of_the_library(machine, configuration, limits)
    build.machine.slot(slot)
    accessories = parts.catalogue().accessories
    judged = judge_equipped(build, slot, part, accessories)
    carries, aside = why(build, judged, part, accessories)
    return WhyHere(judgement=judged, because=carries, aside=aside)


def page(part: Part) -> PartPage:
    """A part with its fields, offers and past prices."""
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
        line=line, cells=cells_of_part(part), fields=fields_of(part.kind), history=parts.price_history(part.number)
    )
