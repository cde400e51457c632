"""A maker's page read: what it states, and what it leaves open (:mod:`.shape`).

Precision first: whatever could be meant two ways is a question, and what two places of the page say differently is
neither's. A page is only read; what is done with its claims somebody decides.
"""

import re
from collections import defaultdict
from typing import Any

from ..spelling import folded
from .battery import read_battery
from .collector import SHOWN, Heard
from .denied import ANECDOTE, CONDITION, NO_STATEMENT, denied_in, places_in, without
from .drives import ORDERED, Drives, read_drives
from .memory import read_memory, speeds_by_population
from .own_words import OwnWords
from .page_text import normalised
from .scope import Scope
from .shape import OpenQuestion, Spec, Stated, Unread
from .statements import Page, Statement, page_of
from .steps import read_step
from .terms import DEPENDS, ELSEWHERE, ONE_OF_THEM, PROCESSOR_NAME, SOLDERED, SOME_OF_THEM, topic_of
from .wireless import read_cellular, read_radio

_CORES = re.compile(r"(?<![\d.])(\d{1,2})[- ](?:cores?|kerne|cœurs|coeurs)\b", re.I)
#: Words of places and of what goes in them: a sentence that has one and told nothing is shown as not understood.
_SPEAKS_OF_PLACES = re.compile(
    r"\b(?:memory|RAM|SO-DIMM|DIMMs?|sockets?|slots?|M\.2|bay|drives?|SSD|NVMe|SATA|PCIe|eMMC|mSATA|Wi-?Fi|WLAN|WWAN|battery|pack|key\s+[ABEM])\b|"
    r"\w*speicher\w*|\w*steckpl\w+|\w*schacht\b|laufwerk\w*|\bakku\b|\bfunk\b|mémoire|emplacement|\bbaie\b|disque|batterie|sans\s+fil",
    re.I,
)
#: Attributes of which a page may name several, each on its own.
_MANY = frozenset(("speed_by_modules", "mini_sizes", "accepts", "name"))


def read_spec(text: str, name: str = "") -> Spec:
    """Read a specification page or a manual's page. ``name`` is the machine's, where it is known."""
    page = page_of(text, name)
    reader = _Reader(page)
    unread: list[Unread] = []
    for statement in page.statements:
        before = reader.heard.gathered
        reader.read(statement)
        if reader.heard.gathered == before and _SPEAKS_OF_PLACES.search(statement.whole):
            unread.append(Unread(phrase=statement.whole[:SHOWN], line=statement.line))
    heard = reader.heard
    for processor in _once(reader.names):
        heard.turn_to(_where(page, text, processor), Scope(Statement("", 0)))
        heard.claim("processor", "name", processor)
    spec = _settled(heard, page, reader.drives).model_copy(update={"unread": tuple(unread)})
    return _in_own_words(spec, OwnWords(text))


class _Reader:
    """Reads one statement after the other: what one begins the next may go on with."""

    def __init__(self, page: Page) -> None:
        self.page, self.heard, self.drives = page, Heard(), Drives()
        self.names = dict.fromkeys(c for c in page.configurations if PROCESSOR_NAME.fullmatch(c))
        self._step, self._topic, self._line = 1, "", 0

    def read(self, statement: Statement) -> None:
        if NO_STATEMENT.search(statement.text) or ANECDOTE.search(statement.whole):
            return
        heard = self.heard
        topic, doubt = self._topic_of(statement)
        heard.turn_to(statement, Scope(statement, topic == "processor"), doubt)
        self.names |= dict.fromkeys(n for n in heard.scope.names if topic != "other")
        if topic == "other" or ELSEWHERE.search(statement.whole):
            return
        if statement.kind == "step":
            self._step += read_step(heard, self._step)
        elif self._of_some(statement):
            named = places_in(statement.whole)
            for place, name in named:
                heard.differs(f"{place}.{name}")
            if topic != "storage" or named != [
                ("bay", "count")
            ]:  # whether there is a bay asks nothing of a card's place
                _leave_open(heard, topic)
        elif CONDITION.search(statement.whole):
            self._conditional(statement, topic)
        elif rest := self._denied(statement, topic, doubt):
            self._stated(rest, topic)

    def _topic_of(self, statement: Statement) -> tuple[str, str]:
        """What a statement speaks of, and the doubt where it goes on with what stands before it in the same paragraph."""
        topic, doubt = topic_of(statement.label) or _own_topic(statement.text), ""
        if topic == "" and statement.line == self._line and self._topic:
            topic, doubt = self._topic, "It names no thing itself: is it said of what stands before it?"
        self._topic, self._line = topic, statement.line
        return topic, doubt

    def _of_some(self, statement: Statement) -> bool:
        """Is it true of some machines of the page only?"""
        one = self.page.of_several and ONE_OF_THEM.search(statement.text)
        return bool(DEPENDS.search(statement.text) or SOME_OF_THEM.search(statement.label) or one)

    def _conditional(self, statement: Statement, topic: str) -> None:
        speeds = speeds_by_population(statement.whole)
        for at, modules, rate in speeds:
            self.heard.claim("memory", "speed_by_modules", f"{modules}:{rate}", self.heard.scope.at(at))
        if not speeds:
            _leave_open(self.heard, topic)

    def _denied(self, statement: Statement, topic: str, doubt: str) -> Statement | None:
        """Claims what is denied; the statement without it, None where nothing is left."""
        heard = self.heard
        denied = list(denied_in(statement.label, statement.text))
        for d in (d for d in denied if d.name):
            heard.claim(d.place, d.name, 0, heard.scope.at(d.start))
        if not denied:
            return statement
        offset = len(statement.whole) - len(statement.text)
        rest = statement._replace(text=without(statement.text, denied, offset))
        if not rest.text or any(d.start < offset for d in denied):
            return None
        heard.turn_to(rest, Scope(rest, topic == "processor"), doubt)
        return rest

    def _stated(self, statement: Statement, topic: str) -> None:
        if topic == "processor":
            self.names |= _processors(self.heard)
        read_memory(self.heard, topic)
        read_drives(self.heard, topic, self.drives)
        read_radio(self.heard, topic)
        read_cellular(self.heard, topic)
        read_battery(self.heard, topic)


def _in_own_words(spec: Spec, page: OwnWords) -> Spec:
    """Each phrase by the page's own characters; what was read as other letters or figures is said."""

    def shown(s: Stated) -> Stated:
        own = page.of(s.phrase, s.line)
        doubt = f"The page has other letters or figures: it was read as “{s.phrase}”." if own.misread else s.doubt
        return s.model_copy(update={"phrase": own.phrase, "doubt": doubt})

    return spec.model_copy(
        update={
            "stated": tuple(shown(s) for s in spec.stated),
            "questions": tuple(
                q.model_copy(update={"phrase": page.of(q.phrase, q.line).phrase}) for q in spec.questions
            ),
            "unread": tuple(u.model_copy(update={"phrase": page.of(u.phrase, u.line).phrase}) for u in spec.unread),
        }
    )


def _own_topic(text: str) -> str:
    found = topic_of(text)
    return "" if found == "other" else found


def _processors(heard: Heard) -> dict[str, None]:
    found = dict.fromkeys(m[0] for m in PROCESSOR_NAME.finditer(heard.statement.text))
    cores = {int(m[1]) for m in _CORES.finditer(heard.statement.text)}
    if len(cores) == 1 and len(found) <= 1:
        heard.claim("processor", "cores", cores.pop(), heard.statement.configuration)
    return found


def _once(names: dict[str, None]) -> list[str]:
    """Each processor once: "Corvane Rill 340" and "Rill 340" are one, by its longest name."""
    found: list[str] = []
    for name in names:
        same = next((f for f in found if folded(f).endswith(folded(name)) or folded(name).endswith(folded(f))), None)
        if same is None:
            found.append(name)
        elif len(name) > len(same):
            found[found.index(same)] = name
    return found


def _where(page: Page, text: str, processor: str) -> Statement:
    """The sentence or row that names it, or the line whose heading does."""
    found = next((s for s in page.statements if processor in s.whole), None)
    if found:
        return found
    lines = normalised(text).split("\n")
    at = next((n for n, line in enumerate(lines) if processor in line), 0)
    return Statement(" ".join(lines[at].split()), at + 1)


def _leave_open(heard: Heard, topic: str) -> None:
    text = heard.statement.text
    about = {"memory": "memory.soldered_gb" if SOLDERED.search(text) else "memory.total_limit_gb", "radio": "radio.standard",
             "storage": "drive-1.wiring", "battery": "battery.design_mwh", "cellular": "cellular.count"}.get(topic)  # fmt: skip
    if about:
        heard.ask(about, "True of some machines of this page only: how is it in this one?")


def _settled(heard: Heard, page: Page, drives: Drives) -> Spec:
    """Claims that agree, once each; what differs or cannot be told apart becomes a question."""
    stated = _batteries(_counted(heard, drives))
    by: dict[tuple[str, str], dict[str, list[Stated]]] = defaultdict(lambda: defaultdict(list))
    for s in stated:
        by[(s.place, s.name)][s.configuration].append(s)
    kept: list[Stated] = []
    for (place, name), whose in by.items():
        if name in _MANY or place.startswith("step"):
            kept += _unique(s for said in whose.values() for s in said)
            continue
        general = whose.get("")
        for configuration, said in whose.items():
            values = _values(said)
            if len(values) > 1:
                heard.turn_to(Statement(said[-1].phrase, said[-1].line), Scope(Statement("", 0)))
                heard.ask(f"{place}.{name}", f"It says {_shown(values)}: which is right?")
            elif configuration and general and _values(general) != values:
                kept.append(said[0])  # its own column outweighs what is said of all
            elif not (configuration and general):
                kept.append(said[0])
    kept = _common(kept, page.configurations or tuple(s.value for s in kept if s.about == "processor.name"))
    if not any(s.place.startswith("drive-") and s.name in ("sata", "pcie_lanes", "pcie_generation") for s in kept):
        for s in [k for k in kept if k.place == "m2_drive" and k.value]:
            heard.turn_to(Statement(s.phrase, s.line), Scope(Statement("", 0)))
            heard.ask("drive-1.wiring", "An M.2 slot is wired for PCIe, SATA or both: which is this one?")
    # What the page says of some machines otherwise it says of none for sure.
    kept = [s for s in kept if s.configuration or s.about not in heard.of_some]
    kept.sort(key=lambda s: (s.line, s.place))
    return Spec(stated=tuple(kept), questions=tuple(_open(heard.questions, kept)), configurations=page.configurations)


def _open(questions: list[OpenQuestion], kept: list[Stated]) -> list[OpenQuestion]:
    return [q for q in questions if not any(k.about == q.about and not k.configuration for k in kept)]


def _values(said: list[Stated]) -> list[Any]:
    found: list[Any] = []
    for s in said:
        if s.value not in found:
            found.append(s.value)
    return found


def _shown(values: list[Any]) -> str:
    return " and ".join(", ".join(map(str, v)) if isinstance(v, list) else str(v) for v in values)


def _unique(stated: Any) -> list[Stated]:
    found: dict[tuple[str, str, str, str], Stated] = {}
    for s in stated:
        found.setdefault((s.place, s.name, str(s.value), s.configuration), s)
    return list(found.values())


def _counted(heard: Heard, drives: Drives) -> list[Stated]:
    """Slots as named and counted: how many the whole page knows. A page that counts and then names without telling
    which leaves them all open."""
    named = [s for s in heard.stated if s.name == "named"]
    rest = [s for s in heard.stated if s.name != "named"]
    if not named:
        return rest
    if drives.more or (drives.free and drives.fitted):
        heard.ask("m2_drive.count", "It describes one slot and speaks of more: how many are there?")
        return rest
    if drives.ambiguous:
        heard.ask(
            "m2_drive.count", "It counts slots in one place and names them in another: how many, and which is which?"
        )
        return [s for s in rest if not s.place.startswith("drive-")]
    most = max(named, key=lambda s: s.value)
    values = {s.value for s in named}
    gap = values != set(range(1, most.value + 1)) or most.value == 1
    lone = not drives.counted and gap and any(ORDERED.search(s.phrase) for s in named)
    whose = {s.configuration for s in named}
    everywhere = "" in whose or len(whose) > 1
    return [
        *rest,
        most.model_copy(
            update={
                "name": "count",
                "value": max(most.value, drives.counted),
                "configuration": "" if everywhere else most.configuration,
                "doubt": most.doubt or ("It numbers one and never says how many there are." if lone else ""),
            }
        ),
    ]


def _batteries(stated: list[Stated]) -> list[Stated]:
    """One energy is the battery's; several of one configuration are what can be had."""
    energies = [s for s in stated if s.name == "wh"]
    rest = [s for s in stated if s.name != "wh"]
    by: dict[str, list[Stated]] = defaultdict(list)
    for s in energies:
        by[s.configuration].append(s)
    for said in by.values():
        values = sorted(_values(said))
        if len(values) == 1:
            rest.append(said[0].model_copy(update={"name": "design_mwh"}))
        else:
            rest.append(said[0].model_copy(update={"name": "options", "value": values}))
            rest = [
                s
                for s in rest
                if not (
                    s.place == "battery"
                    and s.name in ("voltage_mv", "held_by")
                    and s.configuration == said[0].configuration
                )
            ]
    return rest


def _common(kept: list[Stated], configurations: tuple[str, ...]) -> list[Stated]:
    """What every configuration of the page says alike is said of all."""
    if len(configurations) < 2:
        return kept
    by: dict[tuple[str, str, str], list[Stated]] = defaultdict(list)
    for s in kept:
        if s.configuration:
            by[(s.place, s.name, str(s.value))].append(s)
    for said in by.values():
        if {s.configuration for s in said} >= set(configurations):
            kept = [s for s in kept if s not in said] + [said[0].model_copy(update={"configuration": ""})]
    return kept


__all__ = ["read_spec"]
