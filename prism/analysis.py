"""All that is computed from a document: each once, carried over where an edit cannot reach.

Nothing else keeps what follows from a document. Results are made when they are first asked for;
threads may share an analysis.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Hashable, Mapping
from dataclasses import dataclass
from typing import Any, Generic, TypeVar, overload

from prism.compare.rows import RowTables, rows_of
from prism.expressions.values import value_text
from prism.formats import css, scene_css
from prism.model import names
from prism.model.document import TYPES, Document, Token, shown_path
from prism.resolution import contrast_table
from prism.resolution.answer_tables import AnswerTables
from prism.resolution.current import resolver_of
from prism.resolution.failing_pairing import FailingPairing
from prism.resolution.resolver import Resolver
from prism.roles import guess, rules
from prism.roles.by_slot import SLOTS, bound, by_slot
from prism.roles.grounds import Guess
from prism.roles.guess import Guesses
from prism.roles.rules import ByRule

T = TypeVar("T")
#: Results of functions with arguments that an analysis keeps.
_LATELY = 32


class computed(Generic[T]):  # noqa: N801 - used as a decorator, as property is
    """A property computed at most once for each analysis, whatever the number of threads.

    Not ``functools.cached_property``: before Python 3.12 all instances of a class share its lock.
    """

    def __init__(self, compute: Callable[[Any], T]) -> None:
        self._compute = compute
        self._name = compute.__name__
        self.__doc__ = compute.__doc__

    @overload
    def __get__(self, analysis: None, owner: type) -> computed[T]: ...
    @overload
    def __get__(self, analysis: Analysis, owner: type) -> T: ...
    def __get__(self, analysis: Analysis | None, owner: type) -> computed[T] | T:
        if analysis is None:
            return self
        return analysis._kept(self._name, self._compute)


@dataclass(frozen=True, slots=True)
class _Before:
    """What was known of the document that this one was made from."""

    document: Document
    results: Mapping[str | Callable[[Analysis], Any], Any]


class Analysis:
    """A document and all that follows from it.

    ``previous`` is the analysis of the document that this one was made from. What it knows when a
    result is first asked for is used for it, and none of it is kept beyond.
    """

    def __init__(self, document: Document, previous: Analysis | None = None) -> None:
        self.document = document
        self._lock = threading.RLock()
        self._results: dict[str | Callable[[Analysis], Any], Any] = {}
        self._lately: dict[tuple[Callable[..., Any], tuple[Hashable, ...]], Any] = {}
        self._before = _Before(previous.document, previous._results) if previous else None

    def previous(self, made: str | Callable[[Analysis], Any]) -> Any:
        """A result of the analysis before, by the name of its property or the function that ``once`` was handed; None
        where there is none."""
        return self._before.results.get(made) if self._before else None

    def once(self, compute: Callable[[Analysis], T]) -> T:
        """What a function makes of this analysis, computed at most once, whatever the number of threads."""
        return self._kept(compute, compute)

    def lately(self, compute: Callable[..., T], *arguments: Hashable) -> T:
        """What a function makes of this analysis and some arguments, from the last few such results where it is there.

        Two threads that ask at the same moment compute it both: nobody else waits for a long search.
        """
        key = compute, arguments
        if key in self._lately:
            made: T = self._lately[key]
            return made
        made = compute(self, *arguments)
        with self._lock:
            self._lately[key] = made
            for old in list(self._lately)[:-_LATELY]:
                del self._lately[old]
        return made

    def _kept(self, name: str | Callable[[Analysis], Any], compute: Callable[[Analysis], T]) -> T:
        if name not in self._results:
            with self._lock:
                if name not in self._results:
                    self._results[name] = compute(self)
        result: T = self._results[name]
        return result

    @computed
    def rows(self) -> RowTables:
        """The document as rows; those that the one before had too are the same objects."""
        return rows_of(self.document, self._before.document if self._before else None)

    @computed
    def resolver(self) -> Resolver:
        """The document's resolver; what no change reached keeps its answers."""
        return resolver_of(self.document, self.previous("resolver"))

    @computed
    def answers(self) -> AnswerTables:
        """All answers of the document's tokens, each made when it is asked for."""
        return AnswerTables(self.resolver, self.previous("answers"))

    @computed
    def found_by(self) -> dict[str, str]:
        """What each token is found by, in lower case, by key: its path, its values as they are typed,
        and what they come to in any theme."""
        known: dict[str, str] = self.previous("found_by") or {}
        reached = self.resolver.reached if known else None
        return {
            token.key: known[token.key]
            if reached is not None and token.key in known and token.key not in reached
            else self._found_by(token)
            for token in self.document.tokens
        }

    def _found_by(self, token: Token) -> str:
        answers = {id(answer): answer for _, answer in self.answers.of(token.key)}.values()
        results = (part for answer in answers for part in (answer.hex, answer.css))
        values = (value_text(value) for _, value in token.values)
        return " ".join(filter(None, (shown_path(token.path), *values, *results))).lower()

    @computed
    def failing(self) -> dict[str, FailingPairing]:
        """The pairings that fall short in some theme, by key, with the parts where they do."""
        known, before = self.previous("failing"), self.previous("paired")
        pairings = self.paired.pairings
        if known is None or before is None:
            return contrast_table.failing(self.answers, pairings)
        return contrast_table.failing(self.answers, pairings, (before.pairings, known))

    @computed
    def axis_names(self) -> dict[str, str]:
        """The name of each axis in addresses and attributes, by key."""
        return names.axis_names(self.document)

    @computed
    def mode_names(self) -> dict[tuple[str, str], str]:
        """The name of each mode in addresses and attributes, by the keys of axis and mode."""
        return names.mode_names(self.document)

    @computed
    def types(self) -> list[str]:
        """The types that some token has, in the order of ``TYPES``."""
        present = {token.type for token in self.document.tokens}
        return [name for name in TYPES if name in present]

    @computed
    def groups(self) -> list[str]:
        """The first segments of the paths, in document order."""
        return list(dict.fromkeys(token.top for token in self.document.tokens))

    @computed
    def roles(self) -> dict[str, Guess]:
        """What each color is for, by token key; names, and the colors of the theme one starts with,
        decide it."""
        return self.guesses.all

    @computed
    def guesses(self) -> Guesses:
        """The roles with what they were made from; after an edit, of what it reaches alone."""
        known: Guesses | None = self.previous("guesses")
        resolver: Resolver | None = self.previous("resolver")
        if known is None or resolver is None:
            return guess.guesses(self.document, self.resolver)
        changed = self._recolored(resolver)
        if changed is None:
            return guess.guesses(self.document, self.resolver)
        if not changed & known.all.keys():
            return known
        return guess.following(self.document, self.resolver, known, changed)

    def _recolored(self, before: Resolver) -> set[str] | None:
        """The tokens with another color than before in the theme one starts with; None where names
        differ too, or what other tokens refer to and is no step of a ramp."""
        was, now = before.document, self.document
        told = ("axes", "ramps", "gamut", "words", "scenes")
        if any(getattr(was, name) != getattr(now, name) for name in told):
            return None
        if len(was.tokens) != len(now.tokens):
            return None
        if was.pairings != now.pairings and any(token.uses for token in now.tokens):
            return None  # what stands on what tells of colors that a style sheet uses
        pairs = [
            (first, other)
            for first, other in zip(was.tokens, now.tokens, strict=True)
            if first is not other
        ]
        if not all(_same_name(*pair) for pair in pairs):
            return None
        theme, resolver = before.default_theme, self.resolver
        changed = [other.key for _, other in pairs]
        steps = {key for ramp in now.ramps for key in (*ramp.steps, ramp.base)}
        for key in changed:
            if not {*before.all_targets(key)} ^ {*resolver.all_targets(key)} <= steps:
                return None
        return {
            key
            for key in resolver.graph.users(changed)
            if before.resolve(key, theme).value != resolver.resolve(key, theme).value
        }

    @computed
    def by_rule(self) -> list[ByRule]:
        """The pairings that the rules of the document make, but for those it has itself."""
        known: list[ByRule] = self.previous("by_rule") or []
        if self._before is not None and known and self._same_rules(self._before):
            return known
        if not self.document.rules:
            return []
        same = {by_rule.pairing.key: by_rule for by_rule in known}
        # What is as before stays the same object, by which its contrast is found again.
        return [
            before if (before := same.get(made.pairing.key)) == made else made
            for made in rules.kept(self.document, self.roles)
        ]

    def _same_rules(self, before: _Before) -> bool:
        """Whether rules, pairings and names are those of the document before, and roles are."""
        was, now = before.document, self.document
        same = was.rules == now.rules and was.pairings == now.pairings
        return same and self.roles is before.results.get("roles")

    @computed
    def offered(self) -> list[ByRule]:
        """The pairings that the rules which go by roles would make, but for those that are there."""
        return rules.pairings(self.paired, self.roles)

    @computed
    def paired(self) -> Document:
        """The document with the pairings that its rules make behind its own: all that is judged."""
        return rules.joined(self.document, self.by_rule)

    @computed
    def paired_resolver(self) -> Resolver:
        """The resolver of ``paired``; it shares its answers with that of the document."""
        return resolver_of(self.paired, self.resolver)

    @computed
    def bindings(self) -> dict[str, Token]:
        """The token of each slot of the shipped scene: the stored binding, else the guess."""
        stored = next((dict(scene.bindings) for scene in self.document.scenes), {})
        return bound(self.document, stored, self.guessed)

    @computed
    def guessed(self) -> dict[str, str]:
        """The token key that each slot of the scenes takes by what tokens are for."""
        known: dict[str, str] | None = self.previous("guessed")
        if known is not None and self.roles is self.previous("roles"):
            return known
        return by_slot(self.document, self.roles)

    @computed
    def stage_sheet(self) -> str:
        """The style sheet that paints the shipped scene: all tokens, and its slots bound to them."""
        return (
            css.write(self.document) + "\n" + scene_css.write(self.document, self.bindings, SLOTS)
        )


def _same_name(first: Token, other: Token) -> bool:
    """Whether two tokens differ in nothing that a guess by name looks at."""
    return first is other or all(
        getattr(first, name) == getattr(other, name)
        for name in ("key", "path", "type", "tier", "role", "belongs_to", "uses")
    )
