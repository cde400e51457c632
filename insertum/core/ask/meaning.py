"""What a question asked over the telephone means: which machine, which part, and what is not understood.

A machine is meant by the whole of a mark or a name it carries, a part by its number, by what a label says, or by words
that all speak of it (rules.md section 9: a near name is no match). Words that nothing here carries leave the question
open: no verdict is given past them.
"""

import re
import unicodedata
from collections.abc import Iterable, Mapping, Sequence
from typing import Any, NamedTuple

from ..errors import InputError
from ..find import Listed
from ..frozen import Frozen
from ..identify.identify import identify
from ..identify.library import Library
from ..machine.part import AnyPart
from ..phrases import plural
from ..spelling import folded
from ..survey.recognise import as_part, recognise
from .words import DENIALS, FILLERS, KIND_WORDS, ON_LABELS, speaks_of, together

#: A question is a line; longer is a page, which has a door of its own.
MOST_CHARACTERS = 200
#: So many parts are judged for one question; of more, the words are asked to be narrower.
MOST_PARTS = 24
#: What stands between two things that are said one after the other.
_BREAKS = re.compile(r"[,;|?!]+|\s(?:in|into|for|with|to|on)(?:\s(?:an?|the|my))?\s", re.I)


class Way(Frozen):
    """One of several things a question may mean: what to call it, and the question that means it alone."""

    says: str
    ask: str


class Meaning(Frozen):
    """``machines`` are configurations as "machine/configuration" (several of one machine where nothing tells them
    apart), ``parts`` numbers of the catalogue, ``offered`` a part read off a label that the catalogue has not, as the
    parts format holds it. ``kind`` is the kind of part asked about where only that is said. ``unread`` are the words
    nothing here carries, ``says`` why nothing is answered, ``ways`` what may be meant instead."""

    text: str
    machines: tuple[str, ...] = ()
    machine_text: str = ""
    parts: tuple[str, ...] = ()
    part_text: str = ""
    offered: dict[str, Any] | None = None
    decoded: str = ""
    kind: str = ""
    unread: tuple[str, ...] = ()
    ways: tuple[Way, ...] = ()
    says: str = ""

    @property
    def is_open(self) -> bool:
        """Is something to be said first, before anything is answered?"""
        return bool(self.unread or self.ways or self.says)


class _Run(NamedTuple):
    """Words of a piece, next to each other, that are the whole of a mark or name of some configurations."""

    piece: int
    start: int
    end: int
    said: str
    of: frozenset[int]


def understand(text: str, library: Library, parts: Sequence[Listed]) -> Meaning:
    """Read a question. Never raises: what is nothing is said to be."""
    lines = unicodedata.normalize("NFKC", text).splitlines()  # a wide letter is the letter
    text = together(" ".join(", ".join(line for line in lines if line.strip()).split()))
    if len(text) > MOST_CHARACTERS:
        most = f"That is longer than a question: {MOST_CHARACTERS} characters at most."
        return Meaning(text=text[:MOST_CHARACTERS], says=most)
    if not folded(text):
        return Meaning(text=text, says="Say a machine, a part, or both.")
    pieces = [p.split() for p in _BREAKS.split(text) if p.split()]
    runs = [run for n, piece in enumerate(pieces) for run in _runs(n, piece, library)]
    numbers = {number for p in parts for number in (p.folded_number, p.folded_fru) if number}
    doubled = [r for r in runs if folded(r.said) in numbers]
    own = [r for r in runs if r not in doubled]
    if doubled and not own and not _asks_for_part(text):
        return _two_ways(text, pieces, doubled[0], library)
    return _meant(text, pieces, own, library, parts)


def _runs(n: int, piece: list[str], library: Library) -> Iterable[_Run]:
    """The longest runs of a piece's words that name configurations whole."""
    found: list[_Run] = []
    for start in range(len(piece)):
        for end in range(len(piece), start, -1):
            if of := library.named(folded("".join(piece[start:end]))):
                found.append(_Run(n, start, end, " ".join(piece[start:end]), of))
                break
    return [r for r in found if not any(o.start <= r.start and r.end <= o.end and o != r for o in found)]


def _two_ways(text: str, pieces: list[list[str]], run: _Run, library: Library) -> Meaning:
    """A mark of a machine that is a part's number too: a battery's, most often."""
    rest = " ".join(_rest(pieces, [run], frozenset(), library))
    part = Way(says=f"the part {run.said}", ask=f"part {run.said} {rest}".strip())
    machines = [
        Way(says=f"the machine {m} it is in", ask=f"{m}, {rest}" if rest else m) for m in _machines(run.of, library)
    ]
    says = f"{run.said} is the number of a part, and tells a machine as well."
    return Meaning(text=text, ways=(part, *machines), says=says)


def _asks_for_part(text: str) -> bool:
    return text.lower().startswith("part ")


def _machines(of: Iterable[int], library: Library) -> list[str]:
    """Titles of machines, each once."""
    every = (library.every[i][0] for i in sorted(of))
    return list(dict.fromkeys(f"{m.maker} {m.name}" for m in every))


def _meant(text: str, pieces: list[list[str]], runs: list[_Run], library: Library, parts: Sequence[Listed]) -> Meaning:
    meant = frozenset.intersection(*(r.of for r in runs)) if runs else frozenset[int]()
    rest = _rest(pieces, runs, meant, library)
    found = _part(text, rest, parts)
    asked = f", {' '.join(rest)}" if rest else ""
    if runs and not meant:
        named = dict.fromkeys(m for r in runs for m in _machines(r.of, library))
        all_of_it = " and ".join(f"“{r.said}”" for r in runs)
        return Meaning(
            text=text, says=f"No machine here is {all_of_it}.", ways=tuple(Way(says=m, ask=m + asked) for m in named)
        )
    titles = _machines(meant, library)
    if len(titles) > 1:
        ways = tuple(Way(says=m, ask=m + asked) for m in titles)
        return Meaning(text=text, says=f"{plural(len(titles), 'machine')} carry that: which one?", ways=ways)
    if runs and all(_is_processor(r, library) for r in runs):
        # Many laptops have one processor: it tells apart what is named, and names nothing itself.
        ways = tuple(Way(says=m, ask=m + asked) for m in titles)
        return Meaning(text=text, says="A processor names no machine.", ways=ways)
    names = tuple(library.names[i] for i in sorted(meant))
    # The maker of another machine doubts this one, though a part may have the word in its name.
    foreign = [w for w in rest if runs and folded(w) in library.makers and w not in found.unread]
    update = {"machines": names, "machine_text": ", ".join(r.said for r in runs)}
    found = found.model_copy(update=update | {"unread": (*found.unread, *foreign)})
    if runs and found.unread:
        return found.model_copy(update={"ways": _without_them(found, rest)})
    if not runs and (found.unread or not (found.parts or found.offered or found.says)):
        return _near(found, library)
    if not runs and found.parts and not _numbers_named(found, parts):
        return _or_machine(found, library)
    return found


def _without_them(found: Meaning, rest: list[str]) -> tuple[Way, ...]:
    """The question without the words nobody knows; none where one of them takes back what was said."""
    if any(w.lower() in DENIALS for w in found.unread):
        return ()
    plain = ", ".join(filter(None, (found.machine_text, " ".join(w for w in rest if w not in found.unread))))
    return (Way(says=f"Without it: {plain}", ask=plain),)


def _numbers_named(found: Meaning, parts: Sequence[Listed]) -> bool:
    said = [folded(w) for w in _joined(found.part_text.split())]
    return any(p.number in found.parts and any(_is(p, w) for w in said) for p in parts)


def _or_machine(found: Meaning, library: Library) -> Meaning:
    """Words of parts that are words of a machine's name too: "Tern" is a pack's and a laptop's."""
    words = {folded(w) for w in found.part_text.split()}
    called = [i for i, (m, _) in enumerate(library.every) if words <= {folded(w) for w in m.name.split()}]
    if not called or _asks_for_part(found.text):
        return found
    ways = [Way(says=f"the machine {m}", ask=m) for m in _machines(called, library)]
    ways.append(Way(says=f"parts called that, {len(found.parts)}", ask=f"part {found.part_text}"))
    return found.model_copy(update={"ways": tuple(ways), "says": f"“{found.part_text}” may be a machine or a part."})


def _is_processor(run: _Run, library: Library) -> bool:
    kinds = library.carriers.get(folded(run.said), {}).keys()
    return kinds == {"processor"}


def _rest(pieces: list[list[str]], runs: list[_Run], meant: frozenset[int], library: Library) -> list[str]:
    """The words that are no machine's: without fillers, and without the maker of the machine that is meant."""
    makers = {folded(library.every[i][0].maker) for i in meant}
    taken = {(r.piece, i) for r in runs for i in range(r.start, r.end)}
    left = [w for n, piece in enumerate(pieces) for i, w in enumerate(piece) if (n, i) not in taken]
    return [w for w in left if w.lower() not in FILLERS and folded(w) not in makers]


def _part(text: str, rest: list[str], parts: Sequence[Listed]) -> Meaning:
    """The part that words mean: a number, a label, or words that all speak of it."""
    said = " ".join(rest)
    if not rest:
        return Meaning(text=text)
    if all(w.lower() in KIND_WORDS for w in rest):
        kinds = {KIND_WORDS[w.lower()] for w in rest}
        return Meaning(text=text, part_text=said, kind=kinds.pop() if len(kinds) == 1 else "")
    numbered = {p.part.number: (p.part, w) for w in _joined(rest) for p in parts if _is(p, folded(w))}
    if numbered:
        return _numbered(text, rest, list(numbered.values()))
    fitting: list[AnyPart] = [p.part for p in parts if p.part.kind != "accessory"]
    read = recognise(said, fitting)
    if read.offered is not None and not read.known:
        unread = _beside_label(rest, read.offered, parts)
        return Meaning(text=text, part_text=said, offered=read.offered, decoded=read.decoded, unread=unread)
    spoken = [p.number for p in fitting if all(speaks_of(w, p) for w in rest)]
    if len(spoken) > MOST_PARTS:
        many = f"{len(spoken)} parts answer to “{said}”: say more of the one that is meant."
        return Meaning(text=text, part_text=said, says=many)
    if spoken:
        return Meaning(text=text, part_text=said, parts=tuple(spoken))
    nobodys = tuple(w for w in rest if not any(speaks_of(w, p) for p in fitting))
    return Meaning(text=text, part_text=said, unread=nobodys or tuple(rest))


def _beside_label(rest: list[str], offered: Mapping[str, Any], parts: Sequence[Listed]) -> tuple[str, ...]:
    """Words that a label was read past: it says the same without them, and they say nothing that is so of its part."""
    try:
        part = as_part(offered)
    except InputError:
        return tuple(rest)
    makers = {folded(p.part.maker) for p in parts}

    def adds(i: int) -> bool:
        others = recognise(" ".join((*rest[:i], *rest[i + 1 :])), ()).offered
        return _said_of(others) != _said_of(offered)

    return tuple(
        w
        for i, w in enumerate(rest)
        if w.lower() in DENIALS or not (adds(i) or speaks_of(w, part) or w.lower() in ON_LABELS or folded(w) in makers)
    )


def _said_of(offered: Mapping[str, Any] | None) -> dict[str, Any] | None:
    """What a label says, without the text it was said in."""
    return None if offered is None else {k: v for k, v in offered.items() if k not in ("number", "name")}


def _joined(rest: list[str]) -> list[str]:
    """Words, and what a blank broke apart: three and two of them together first."""
    return [" ".join(rest[a : a + n]) for n in (3, 2, 1) for a in range(len(rest) - n + 1)]


def _is(p: Listed, wanted: str) -> bool:
    return len(wanted) > 2 and wanted in (p.folded_number, p.folded_fru)


def _numbered(text: str, rest: list[str], found: list[tuple[AnyPart, str]]) -> Meaning:
    """Parts by number. What else is said must speak of each of them, or nobody knows what it means."""
    used = {w for _, words in found for w in words.split()}
    unread = tuple(w for w in rest if w not in used and not all(speaks_of(w, p) for p, _ in found))
    numbers = tuple(dict.fromkeys(p.number for p, _ in found))
    return Meaning(text=text, part_text=" ".join(rest), parts=numbers, unread=unread)


def _near(found: Meaning, library: Library) -> Meaning:
    """No machine is named whole: what is near, as ways to ask anew, with why it is not taken."""
    if found.kind and not found.unread:
        return found.model_copy(update={"says": "Say which machine, too."})
    words = " ".join(found.unread) or found.part_text
    near = identify([words], library)
    of = [c for c in (*near.candidates, *near.relatives) if c.matched or c in near.relatives]
    titles = _machines((library.index[f"{c.machine}/{c.configuration}"] for c in of[:5]), library)
    kept = " ".join(w for w in found.part_text.split() if w not in found.unread)
    asked = f", {kept}" if kept and kept != found.part_text else ""
    says = " ".join(near.doubts) or f"Nothing here is called “{words}”."
    return found.model_copy(update={"ways": tuple(Way(says=t, ask=t + asked) for t in titles), "says": says})
