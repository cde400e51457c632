"""What is gathered while a page is read: claims and questions, each with its phrase."""

import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from .scope import Scope
from .shape import OpenQuestion, Stated
from .statements import UNSURE, Statement

#: A phrase is shown up to so many characters.
SHOWN = 200


@dataclass
class Heard:
    """Claims and questions so far, for the statement at hand."""

    stated: list[Stated] = field(default_factory=list)
    questions: list[OpenQuestion] = field(default_factory=list)
    statement: Statement = field(default_factory=lambda: Statement("", 0))
    scope: Scope = field(default_factory=lambda: Scope(Statement("", 0)))

    #: How the whole statement could be meant otherwise.
    doubt: str = ""

    #: What some machines of the page have and others have not.
    of_some: set[str] = field(default_factory=set)

    def differs(self, about: str) -> None:
        self.of_some.add(about)
        self.ask(about, "True of some machines of this page only: how is it in this one?")

    def turn_to(self, statement: Statement, scope: Scope, doubt: str = "") -> None:
        self.statement, self.scope, self.doubt = statement, scope, doubt

    @property
    def gathered(self) -> int:
        """How much was heard so far, claimed or asked."""
        return len(self.stated) + len(self.questions)

    @property
    def phrase(self) -> str:
        text = self.statement.whole
        return text if len(text) <= SHOWN else text[: SHOWN - 1] + "…"

    def claim(
        self, place: str, name: str, value: Any, configuration: str = "", among_others: bool = False, doubt: str = ""
    ) -> None:
        """One claim; in a cell that is nobody's it is a question."""
        if configuration == UNSURE:
            self.ask(f"{place}.{name}", "The row has fewer cells than the table has columns: whose is it?")
            return
        self.stated.append(
            Stated(
                place=place, name=name, value=value, phrase=self.phrase, line=self.statement.line,
                configuration=configuration, among_others=among_others, doubt=doubt or self.doubt,
            )
        )  # fmt: skip

    def ask(self, about: str, says: str) -> None:
        question = OpenQuestion(about=about, says=says, phrase=self.phrase, line=self.statement.line)
        if question not in self.questions:
            self.questions.append(question)


@dataclass(frozen=True)
class Clause:
    text: str
    start: int


_BORDER = re.compile(r",\s+|\s+(?:and|plus|und|sowie|et|but|aber|mais)\s+|\s*[()]\s*|\s+[/–-]\s+|:\s+")


def clauses(text: str) -> Iterator[Clause]:
    """Parts between commas, brackets and "and", with where each begins. A decimal comma parts nothing."""
    start = 0
    for m in _BORDER.finditer(text):
        if text[start : m.start()].strip():
            yield Clause(text[start : m.start()], start)
        start = m.end()
    if text[start:].strip():
        yield Clause(text[start:], start)
