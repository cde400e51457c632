"""A question answered: what it means, and what is so. The same for the pages, the API and the terminal."""

from collections.abc import Callable, Sequence

from ..catalogue import Catalogue
from ..find import Listed
from ..frozen import Frozen
from ..identify.library import Library
from ..job.fit_desk import FitDesk
from ..machine.claim import Limits
from ..machine.part import Accessory, Fittable
from ..survey.recognise import as_part
from ..verdict import Verdict
from .answer import PlaceSays, Seat, ceilings_of, places_of, says, seats
from .meaning import Meaning, Way, understand

#: So many configurations are answered for at once; of more one is asked for.
MOST_CONFIGURATIONS = 8
#: Places of the library shown for a part alone.
MOST_PLACES = 40

#: Lays out a configuration as nobody's job: machine, configuration, whose limits.
DeskOf = Callable[[str, str, Limits], FitDesk]


class MeantConfiguration(Frozen):
    machine: str
    configuration: str
    name: str


class PartNamed(Frozen):
    number: str
    name: str
    price_minor: int | None


class Goes(Frozen):
    """A place of the library that a part goes in, or waits for an answer about."""

    machine: str
    configuration: str
    title: str
    place: str
    verdict: Verdict
    short: str


class AskAnswer(Frozen):
    """``says`` is the answer in a sentence, where there is one. Of a part alone ``machines`` are the places it goes in,
    the best first, and ``more`` how many are not shown."""

    meaning: Meaning
    title: str = ""
    says: str = ""
    limits: Limits = Limits.PROVEN
    configurations: tuple[MeantConfiguration, ...] = ()
    seats: tuple[Seat, ...] = ()
    places: tuple[PlaceSays, ...] = ()
    ceilings: tuple[str, ...] = ()
    parts: tuple[PartNamed, ...] = ()
    machines: tuple[Goes, ...] = ()
    more: int = 0


class House:
    """What a question is put to: the machines, the parts, and how one is laid out."""

    def __init__(self, library: Library, parts: Catalogue, listed: Sequence[Listed], desk_of: DeskOf) -> None:
        self.library, self.parts, self.listed, self.desk_of = library, parts, listed, desk_of

    def ask(self, text: str, limits: Limits = Limits.PROVEN) -> AskAnswer:
        """What a question means and what is so. Raises :class:`InputError` for a label that tells too little of a part."""
        meaning = understand(text, self.library, self.listed)
        blank = AskAnswer(meaning=meaning, limits=limits)
        if meaning.is_open:
            return blank
        if not meaning.machines:
            return self._of_parts(blank)
        if len(meaning.machines) > MOST_CONFIGURATIONS:
            return self._too_many(blank)
        return self._of_machine(blank, [self.desk_of(*_two(name), limits) for name in meaning.machines])

    def _of_machine(self, blank: AskAnswer, desks: Sequence[FitDesk]) -> AskAnswer:
        """One machine, in each configuration that is meant: its places, or the parts asked about in them."""
        one, meaning = desks[0], blank.meaning
        shell = one.plain.machine
        title = one.configured.title if len(desks) == 1 else f"{shell.maker} {shell.name}"
        named = tuple(_named(d) for d in desks)
        found = blank.model_copy(update={"title": title, "configurations": named, "parts": self._known(meaning)})
        asked = self._fittable(meaning)
        if not asked and (meaning.parts or meaning.offered):
            return found.model_copy(update={"says": "An accessory goes into no slot by itself."})
        if asked:
            rows = seats(desks, asked)
            line = says(rows, asked[0].name, title) if len(asked) == 1 else ""
            return found.model_copy(update={"seats": rows, "says": line})
        return found.model_copy(update={"places": places_of(desks, meaning.kind), "ceilings": ceilings_of(desks)})

    def _too_many(self, blank: AskAnswer) -> AskAnswer:
        meaning = blank.meaning
        every = [self.library.every[self.library.index[name]] for name in meaning.machines]
        asked = f", {meaning.part_text}" if meaning.part_text else ""
        ways = tuple(Way(says=f"{m.maker} {c.name}", ask=f"{m.maker} {c.name}{asked}") for m, c in every[:MOST_PLACES])
        line = f"{len(every)} configurations carry that: which one?"
        return blank.model_copy(update={"meaning": meaning.model_copy(update={"ways": ways, "says": line})})

    def _of_parts(self, blank: AskAnswer) -> AskAnswer:
        """A part alone: where in this library it goes. Several: which there are."""
        asked = self._fittable(blank.meaning)
        found = blank.model_copy(update={"parts": self._known(blank.meaning)})
        if len(asked) != 1:
            return found
        part = asked[0]
        goes = [g for m, c in self.library.every for g in _goes(self.desk_of(m.id, c.id, blank.limits), part)]
        goes.sort(key=lambda g: (g.verdict.rank, g.title, g.place))
        return found.model_copy(
            update={
                "title": part.name, "machines": tuple(goes[:MOST_PLACES]), "more": max(0, len(goes) - MOST_PLACES),
                "says": "" if goes else f"No place for {part.name} is known in any machine of this library.",
            }
        )  # fmt: skip

    def _fittable(self, meaning: Meaning) -> list[Fittable]:
        """The parts that are asked about, and can sit in a slot."""
        if meaning.offered is not None:
            part = as_part(meaning.offered)
            return [] if isinstance(part, Accessory) else [part]
        every = [self.parts.by_number[n] for n in meaning.parts]
        return [p for p in every if not isinstance(p, Accessory)]

    def _known(self, meaning: Meaning) -> tuple[PartNamed, ...]:
        every = (self.parts.by_number[n] for n in meaning.parts)
        return tuple(PartNamed(number=p.number, name=p.name, price_minor=p.price_minor) for p in every)


def _two(name: str) -> tuple[str, str]:
    machine, _, configuration = name.partition("/")
    return machine, configuration


def _named(desk: FitDesk) -> MeantConfiguration:
    c = desk.configured.configuration
    return MeantConfiguration(machine=desk.plain.machine.id, configuration=c.id, name=c.name)


def _goes(desk: FitDesk, part: Fittable) -> list[Goes]:
    """The places of one configuration that take the part, or may."""
    named = _named(desk)
    return [
        Goes(
            machine=named.machine, configuration=named.configuration, title=desk.configured.title, place=place,
            verdict=s.verdict, short=s.short,
        )
        for s in seats([desk], [part])
        for place in s.places
        if s.verdict.rank <= Verdict.MEASURE_FIRST.rank
    ]  # fmt: skip
