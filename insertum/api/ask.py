"""Questions without a job, and what fits a machine of the library."""

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status
from ninja.security import HttpBearer
from pydantic import Field

from ..core.ask.ask import AskAnswer
from ..core.comparison.side_by_side import Comparison
from ..core.frozen import Frozen
from ..core.machine.claim import Limits
from ..core.survey.acts import NextAct
from ..shop.services import ask, ask_keys, show_fit, what_fits
from .download import download
from .roles import SignedIn
from .shapes import Problem

router = Router()


class AskKey(HttpBearer):
    """A program with a key for questions: it reads answers, and nothing else."""

    def authenticate(self, request: HttpRequest, token: str) -> str | None:
        """The key, where it counts."""
        return token if ask_keys.counts(token) else None


@router.get("/ask", response={200: AskAnswer, 400: Problem}, auth=[AskKey(), SignedIn()])
def asked(request: HttpRequest, text: Query[str], limits: Query[Limits] = Limits.PROVEN):
    """What a model and a part in any order mean, and the verdict with its reasons. Nothing is kept."""
    return ask.ask(text, limits)


@router.get("/workshop/keys", response=tuple[ask_keys.AskKeyView, ...])
def keys(request: HttpRequest):
    """The keys other programs ask with, those taken back too."""
    return ask_keys.every()


class NewKey(Frozen):
    name: str = Field(max_length=60)


@router.post("/workshop/keys", response={200: ask_keys.AskKeyShown, 400: Problem})
def make_key(request: HttpRequest, body: NewKey):
    """A new key, shown this once."""
    return ask_keys.make(body.name, request.user)


@router.delete("/workshop/keys/{int:id}", response={204: None, 400: Problem})
def take_back_key(request: HttpRequest, id: int):
    """End a key."""
    ask_keys.take_back(id, request.user)
    return Status(204, None)


class AskJob(Frozen):
    number: int


class AskedFor(Frozen):
    text: str
    customer: str = ""


@router.post("/ask/job", response={200: AskJob, 400: Problem})
def make_job(request: HttpRequest, body: AskedFor):
    """The question made a job, with what was asked in it."""
    return AskJob(number=ask.as_job(body.text, body.customer))


class Asked(Frozen):
    """``has`` and ``puts`` are slot:number, several with commas between; an empty number is an empty slot."""

    limits: Limits = Limits.PROVEN
    holds: what_fits.Holds = "delivered"
    has: str = ""
    puts: str = ""
    makes: str = ""

    def asking(self) -> what_fits.Asking:
        """As the services take it. Raises :class:`InputError`."""
        return what_fits.Asking(
            limits=self.limits, holds=self.holds, has=what_fits.pairs(self.has), puts=what_fits.pairs(self.puts),
            makes=tuple(filter(None, self.makes.split(","))),
        )  # fmt: skip


@router.get("/machines/{slug}/{configuration}/fits", response={200: show_fit.FitStation, 400: Problem})
def fits(request: HttpRequest, slug: str, configuration: str, asked: Query[Asked], whole: Query[bool] = False):
    """What goes into a machine without a job: as delivered, empty, or with what somebody says is in it."""
    found = what_fits.station(slug, configuration, asked.asking(), whole)
    return HttpResponse(found, content_type="application/json")


@router.post("/machines/{slug}/{configuration}/fits/job", response={200: AskJob, 400: Problem})
def make_machine_job(request: HttpRequest, slug: str, configuration: str, asked: Query[Asked]):
    """What is asked of a machine made a job: with what is in it, what is put in, and whose limits count."""
    return AskJob(number=what_fits.as_job(slug, configuration, asked.asking()))


@router.get("/machines/{slug}/{configuration}/fits/why", response={200: show_fit.WhyView, 400: Problem})
def why(request: HttpRequest, slug: str, configuration: str, asked: Query[Asked], slot: Query[str], part: Query[str]):
    """Everything said of one pair, with what it rests on."""
    return what_fits.why(slug, configuration, asked.asking(), slot, part)


@router.get("/machines/{slug}/{configuration}/fits/compare", response={200: Comparison, 400: Problem})
def compare(
    request: HttpRequest, slug: str, configuration: str, asked: Query[Asked], slot: Query[str], parts: Query[str]
):
    """Up to four parts side by side in one slot; ``parts`` are numbers with commas between."""
    return what_fits.compared(slug, configuration, asked.asking(), slot, parts.split(","))


@router.get("/machines/{slug}/{configuration}/fits/schools", response={200: dict[Limits, int], 400: Problem})
def schools(request: HttpRequest, slug: str, configuration: str, asked: Query[Asked]):
    """How many pairs go in under each school of limits."""
    return what_fits.schools(slug, configuration, asked.asking())


@router.get("/machines/{slug}/{configuration}/fits/acts", response={200: tuple[NextAct, ...], 400: Problem})
def acts(request: HttpRequest, slug: str, configuration: str, asked: Query[Asked]):
    """What somebody would do to know more of the machine."""
    return what_fits.acts(slug, configuration, asked.asking())


@router.get("/machines/{slug}/{configuration}/fits/paper", response={200: what_fits.FitsPaper, 400: Problem})
def paper(request: HttpRequest, slug: str, configuration: str, asked: Query[Asked]):
    """What goes in or waits for an answer, place by place: for printing, and for other programs."""
    return what_fits.paper(slug, configuration, asked.asking())


@router.get("/machines/{slug}/{configuration}/fits.csv", include_in_schema=False)
def as_csv(request: HttpRequest, slug: str, configuration: str, asked: Query[Asked]):
    """The same as CSV."""
    found = what_fits.paper(slug, configuration, asked.asking())
    return download(what_fits.as_csv(found), f"what-fits-{slug}.csv", "text/csv")


@router.get("/machines/{slug}/{configuration}/fits.json", include_in_schema=False)
def as_json(request: HttpRequest, slug: str, configuration: str, asked: Query[Asked]):
    """The same as JSON (``insertum-what-fits/1``)."""
    found = what_fits.paper(slug, configuration, asked.asking())
    return download(found.model_dump_json(indent=1), f"what-fits-{slug}.json", "application/json")
