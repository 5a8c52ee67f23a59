"""What a check is, what it sees, and what it finds."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Literal, Protocol

from prism.model.document import Document
from prism.resolution.answer_tables import AnswerTables
from prism.resolution.contrast_table import Part
from prism.resolution.resolver import Resolver
from prism.roles.grounds import Guess

#: Wrong for those who use the product; doubtful, as it may be meant; advice.
Severity = Literal["wrong", "doubtful", "advice"]


class Analyzed(Protocol):
    """What a check sees of a document and of what is computed from it."""

    @property
    def document(self) -> Document: ...

    @property
    def resolver(self) -> Resolver: ...

    @property
    def answers(self) -> AnswerTables: ...

    @property
    def roles(self) -> Mapping[str, Guess]: ...

    @property
    def failing(self) -> Mapping[str, list[Part]]: ...


@dataclass(frozen=True, slots=True)
class Finding:
    """What a check has to say about one thing.

    ``check`` is the id of the check, ``what`` a sentence, ``token`` a token's key or empty,
    ``where`` a file or modes, ``themes`` in how many themes it is so (0 where it does not depend
    on the theme), ``fixes`` what a person can do about it, a sentence each.
    """

    check: str
    what: str
    token: str = ""
    where: str = ""
    themes: int = 0
    severity: Severity = "doubtful"
    fixes: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Check:
    """A check: a stable id, a title, one sentence of why it matters, and its run."""

    id: str
    title: str
    why: str
    run: Callable[[Analyzed], Iterable[Finding]]
