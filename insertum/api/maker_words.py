"""The maker's words: a page pasted in, what it states, and what of it is taken into the library."""

from django.http import HttpRequest
from ninja import Router
from pydantic import Field

from ..core.frozen import Frozen
from ..core.maker_text.apply_claims import WordsPage
from ..shop.services import maker_words
from .jobs import JobView, view_of
from .shapes import Problem

router = Router()


class PastedWords(Frozen):
    """A pasted page. ``places`` says which slot a numbered place of it is, where that is open."""

    text: str = Field(max_length=1_000_000, description="how much of it is read, the reader says")
    places: dict[str, str] = {}


class TakenWords(PastedWords):
    """The claims that are accepted, by id, and where the page is from."""

    chosen: list[str] = Field(min_length=1, max_length=1000)
    where: str = Field("", max_length=200)


@router.post("/words/{slug}", response={200: WordsPage, 400: Problem})
def read_words(request: HttpRequest, slug: str, body: PastedWords):
    """What a maker's page states of this machine, beside what the library says. Nothing is kept."""
    return maker_words.read(slug, body.text, body.places)


@router.post("/words/{slug}/taken", response={200: WordsPage, 400: Problem})
def take_words(request: HttpRequest, slug: str, body: TakenWords):
    """Take claims of the page into the library, and show the page beside it again."""
    maker_words.take(slug, body.text, body.chosen, body.where, body.places, request.user)
    return maker_words.read(slug, body.text, body.places)


@router.post("/jobs/{int:number}/words/taken", response={200: JobView, 400: Problem, 404: Problem})
def take_words_on_job(request: HttpRequest, number: int, body: TakenWords):
    """Take claims of the page on this job at once, and propose them to the library."""
    return view_of(maker_words.take_on_job(number, body.text, body.chosen, body.where, body.places, request.user))
