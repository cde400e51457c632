"""The maker's words on a machine: read, shown beside what the library says, and taken in as claims."""

from collections.abc import Mapping, Sequence

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from ...core.errors import Code, InputError
from ...core.job.shape import Job
from ...core.job.words import new_words
from ...core.machine.shape import Machine
from ...core.maker_text.apply_claims import WordsPage, landed, page
from ...core.maker_text.read import read_spec
from ...core.maker_text.shape import Spec
from .claims import record_claim
from .edit_job import write
from .jobs import job_of
from .machines import machine_file, save_machine

#: A page of a manual is some thousand characters; a whole manual is more than anybody reads through here.
MOST_CHARACTERS = 100_000


def _read(slug: str, text: str) -> tuple[Machine, Spec]:
    machine = machine_file(slug)
    if machine is None:
        raise InputError(f"no machine {slug!r}", "maker's words", "Identify it, or start it here.", code=Code.MISSING)
    if len(text) > MOST_CHARACTERS:
        raise InputError(
            f"{len(text)} characters are more than a page", "maker's words", "Paste the pages that matter."
        )
    return machine, read_spec(text, machine.name)


def read(slug: str, text: str, places: Mapping[str, str]) -> WordsPage:
    """What the text states of the machine. Nothing is kept."""
    machine, spec = _read(slug, text)
    return page(machine, spec, places)


def take(
    slug: str, text: str, chosen: Sequence[str], where: str, places: Mapping[str, str], who: AbstractBaseUser | None
) -> Machine:
    """Take the chosen claims into the library: all of them, or none."""
    # Read before the write begins; the machine is looked at again inside it.
    _, spec = _read(slug, text)
    with transaction.atomic():
        machine = machine_file(slug)
        if machine is None:
            raise InputError(f"no machine {slug!r}", "maker's words", "It was taken out meanwhile.", code=Code.MISSING)
        data = landed(machine, spec, chosen, where.strip(), places)
        return save_machine(
            data,
            who,
            f"{len(chosen)} {'claim' if len(chosen) == 1 else 'claims'} from the maker's words{': ' + where if where.strip() else ''}",
        )


@transaction.atomic
def take_on_job(
    number: int, text: str, chosen: Sequence[str], where: str, places: Mapping[str, str], who: AbstractBaseUser | None
) -> Job:
    """Take the chosen claims on one job at once, and propose them to the library. Raises :class:`InputError` where none of
    them is said of a place this machine has."""
    job = job_of(number)
    machine, spec = _read(job.identify.machine, text)
    after = Machine.model_validate(landed(machine, spec, chosen, where.strip(), places))
    found = new_words(machine, after, job.identify.configuration)
    if not found:
        raise InputError(
            "nothing of it is said of a place this machine has",
            "maker's words",
            "What is drawn anew is the library's: propose the page there.",
        )
    kept = {k: [w.model_dump(mode="json") for w in v] for k, v in job.survey.words.items()}
    for attribute, words in found.items():
        kept[attribute] = [*kept.get(attribute, ()), *(w.model_dump(mode="json") for w in words)]
        for w in words:
            record_claim(number, attribute, w.value, "documented", w.note, who)
    return write(number, "/survey/words", kept, who)
