"""Resolution: what every token is in a theme, why, and which axes had a say.

A stored answer is keyed by the modes of the axes that were consulted for it, so themes that
differ only elsewhere share it.
"""

from __future__ import annotations

import re
from collections.abc import Container, Iterable, Iterator

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.syntax import REFERENCE
from prism.expressions.values import (
    ITEMS,
    MAX_TEXT_WITH_PIECES,
    evaluate_tree,
    nearest,
    parse,
    part_type,
)
from prism.model.document import Document, Token, shown_path
from prism.model.values import Absent, Composite, Condition, Listing, Value
from prism.resolution.answers import Answer, Items, Parts, Resolved, css_value
from prism.resolution.compiled import (
    Candidate,
    Compiled,
    Hop,
    PassedOnError,
    changed_tokens,
    compiled,
)
from prism.resolution.graph import Graph, circle, strong_components
from prism.resolution.themes import Theme as Theme
from prism.resolution.themes import ThemeSpace

#: How many paths that are not there get a suggestion.
_SUGGESTED = 40
#: Tokens of a circle that its sentence names.
_HOPS_SHOWN = 24
#: Parts that a list may come to, with the lists that it refers to.
_MOST_PARTS = 4_000


class Resolver(ThemeSpace):
    """Resolves one document and remembers what it found.

    Lives as long as the document does. Threads may share it: an answer is stored whole, and
    two threads that find the same one store the same.
    """

    def __init__(self, document: Document, before: Resolver | None = None) -> None:
        """A resolver for ``document``.

        ``before`` is that of the document it was made from: what no change can reach keeps its
        answers.
        """
        super().__init__(document)
        self._memo: dict[str, dict[tuple[int, ...], dict[tuple[int, ...], Answer]]] = {}
        self._places: dict[tuple[int, ...], tuple[tuple[int, ...], tuple[int, ...]]] = {}
        self._suggested: dict[str, str] = {}
        self._influences: dict[str, frozenset[int]] = {}
        self.evaluations = 0
        #: Which tokens name which in some value, by key.
        self.graph: Graph
        #: Tokens that a change since ``before`` may reach, by key; None where that is not known.
        self.reached: set[str] | None = None
        changed = changed_tokens(before.document, document) if before is not None else None
        if before is None or changed is None:
            self._by_path = {token.path: token.key for token in document.tokens}
            for token in document.tokens:
                self._by_path.setdefault(shown_path(token.path), token.key)
            self._order = {token.key: place for place, token in enumerate(document.tokens)}
            self._tokens = {token.key: self._compile(token) for token in document.tokens}
            self.graph = Graph({key: known.targets for key, known in self._tokens.items()})
        else:
            self._by_path, self._order = before._by_path, before._order
            compiled = {token.key: self._compile(token) for token in changed}
            self._tokens = before._tokens | compiled
            named = {key: known.targets for key, known in compiled.items()}
            self.graph = before.graph.changed(named)
            reached = self.graph.users(named) | before.graph.users(named)
            self.reached = reached
            for key, memo in before._memo.copy().items():  # another thread may add to it
                if key not in reached and key in self._tokens:
                    self._memo[key] = memo

    def reached_since(self, before: Resolver) -> set[str] | None:
        """Tokens that what changed since an earlier document may reach, by key; None where that is not known."""
        changed = changed_tokens(before.document, self.document)
        if changed is None:
            return None
        keys = [token.key for token in changed]
        return self.graph.users(keys) | before.graph.users(keys)

    def _compile(self, token: Token) -> Compiled:
        return compiled(token, self.axis_index, self.mode_index, self._by_path)

    # Answers

    def key_of(self, path: str) -> str | None:
        """The key of the token a reference to ``path`` means, or None."""
        return self._by_path.get(path)

    def winner(self, key: str, theme: Theme) -> tuple[Condition, Value] | None:
        """The strongest condition that holds in ``theme``, and its value; None if absent."""
        won = self._winner(key, theme)
        return (won.condition, won.value) if won is not None else None

    def _winner(self, key: str, theme: Theme) -> Candidate | None:
        for candidate in self._tokens[key].candidates:
            for axis, mode in candidate.picks:
                if theme[axis] != mode:
                    break
            else:
                return candidate
        return None

    def resolve(self, key: str, theme: Theme) -> Answer:
        """What the token is in ``theme``."""
        known = self._recall(key, theme)
        return known if known is not None else self._settle(key, theme)

    def consulted(self, key: str, theme: Theme) -> tuple[int, ...]:
        """Positions of the axes that had a say in the token's answer in ``theme``."""
        self.resolve(key, theme)
        for axes, table in self._memo[key].copy().items():
            if tuple(theme[axis] for axis in axes) in table:
                return axes
        return ()

    def _recall(self, key: str, theme: Theme) -> Answer | None:
        for axes, table in self._memo.get(key, {}).copy().items():
            answer = table.get(tuple([theme[axis] for axis in axes]))
            if answer is not None:
                return answer
        return None

    def _store(self, key: str, theme: Theme, axes: Iterable[int], answer: Answer) -> None:
        consulted = tuple(sorted(axes))
        table = self._memo.setdefault(key, {}).setdefault(consulted, {})
        table[tuple(theme[axis] for axis in consulted)] = answer

    def _targets(self, key: str, theme: Theme) -> tuple[str, ...]:
        won = self._winner(key, theme)
        return won.targets if won is not None else ()

    def _settle(self, key: str, theme: Theme) -> Answer:
        """Evaluate everything ``key`` still needs, one circle or single token at a time."""
        for members in self._components(key, theme):
            axes: set[int] = set()
            inside = set(members)
            for member in members:
                axes.update(self._tokens[member].axes)
                for target in self._targets(member, theme):
                    if target not in inside:
                        axes.update(self.consulted(target, theme))
            circular = len(members) > 1 or members[0] in self._targets(members[0], theme)
            circle = self._circle(members, theme) if circular else ""
            for member in members:
                self.evaluations += 1
                answer = (
                    Answer(self._tokens[member].type, broken=circle)
                    if circular
                    else self._evaluate(member, theme)
                )
                self._store(member, theme, axes, answer)
        settled = self._recall(key, theme)
        assert settled is not None
        return settled

    def _components(self, start: str, theme: Theme) -> Iterator[list[str]]:
        """Circles and single tokens that are not known yet in ``theme``, targets first."""
        return strong_components(
            [start],
            lambda key: self._targets(key, theme),
            lambda key: self._recall(key, theme) is not None,
        )

    def components(self, keys: Iterable[str], known: Container[str]) -> Iterator[list[str]]:
        """Tokens that may refer to each other in some theme, targets first, without ``known``."""
        return strong_components(keys, self.all_targets, lambda key: key in known)

    def all_targets(self, key: str) -> tuple[str, ...]:
        """Keys of all tokens that the token refers to, in any theme."""
        return tuple(
            dict.fromkeys(
                t for candidate in self._tokens[key].candidates for t in candidate.targets
            )
        )

    def own_axes(self, key: str) -> tuple[int, ...]:
        """Positions of the axes that the token's own conditions name."""
        return self._tokens[key].axes

    def winning_targets(self, key: str, theme: Theme) -> tuple[str, tuple[str, ...]]:
        """Where the winning value is one whole reference, the key it means; and all its targets."""
        won = self._winner(key, theme)
        return (won.alias, won.targets) if won is not None else ("", ())

    def evaluate(self, key: str, theme: Theme) -> Answer:
        """The token's answer from those of its targets; for a token in no circle."""
        self.evaluations += 1
        return self._evaluate(key, theme)

    def learn(self, key: str, rows: Iterable[tuple[tuple[int, ...], Answer]]) -> None:
        """Remember answers by parts of the themes; -1 stands for a free axis."""
        memo = self._memo.setdefault(key, {})
        for fixed, answer in rows:
            place = self._places.get(fixed)
            if place is None:
                axes = tuple([i for i, mode in enumerate(fixed) if mode >= 0])
                place = self._places[fixed] = (axes, tuple([fixed[axis] for axis in axes]))
            memo.setdefault(place[0], {})[place[1]] = answer

    def _circle(self, members: list[str], theme: Theme) -> str:
        """The sentence for a circle, starting at the member first in document order."""
        first = min(members, key=self._order.__getitem__)
        chain = circle(first, set(members), lambda key: self._targets(key, theme))
        names = [shown_path(self._tokens[hop].path) for hop in chain]
        if len(names) > _HOPS_SHOWN:
            half = _HOPS_SHOWN // 2
            names[half:-half] = [f"{len(names) - 2 * half:,} more"]
        return "Circular reference: " + " → ".join([*names, names[0]]) + "."

    def _evaluate(self, key: str, theme: Theme) -> Answer:
        token = self._tokens[key]
        won = self._winner(key, theme)
        if won is None or isinstance(won.value, Absent):
            return Answer(token.type)
        try:
            value = self._value(won.value, token.type, theme)
        except PassedOnError as error:
            return Answer(token.type, broken=str(error), passed_on=True)
        except ExpressionError as error:
            return Answer(token.type, broken=str(error))
        if isinstance(value, space.Color):
            fitted = space.fit(value, self.document.gamut)
            return Answer(token.type, fitted, mapped=fitted != value)
        return Answer(token.type, value)

    def value_in(self, value: Value, type: str, theme: Theme) -> Resolved:
        """What a value of ``type`` comes to in ``theme``; ``ExpressionError`` where it is broken."""
        return self._value(value, type, theme)

    def _value(self, value: Value, type: str, theme: Theme) -> Resolved:
        assert not isinstance(value, Absent)
        if isinstance(value, Listing):
            items = tuple(self._value(item, ITEMS[type], theme) for item in value.items)
            count = sum(item.count if isinstance(item, Items) else 1 for item in items)
            if count > _MOST_PARTS:
                raise ExpressionError(f"The list comes to more than {_MOST_PARTS:,} parts.")
            return Items(items, count)
        if isinstance(value, Composite):
            return Parts(
                tuple(
                    (name, self._value(part, part_type(type, name), theme))
                    for name, part in value.parts
                )
            )
        return self._single(value.text, type, theme)

    def _single(self, text: str, type: str, theme: Theme) -> Resolved:
        """What a text of ``type`` comes to, once the pieces it refers to are put in."""
        parsed = parse(text, type)
        if type == "piece" or any(self.is_piece(path) for path in parsed.references):
            if parsed.references:
                text = self._with_pieces(text, type, theme)
            return text if type == "piece" else self._single(text, type, theme)
        if parsed.problem is not None:
            raise parsed.problem
        if parsed.reference:
            accepted = ("number", "fontWeight") if type in ("number", "fontWeight") else (type,)
            return self._look(parsed.reference, accepted, theme)
        if parsed.literal is not None:
            return parsed.literal

        def look(path: str, types: tuple[str, ...]) -> object:
            return self._look(path, types, theme)

        return evaluate_tree(parsed, type, look)

    def is_piece(self, path: str) -> bool:
        """Whether a path names a piece, whose text is put in where it is used."""
        key = self._by_path.get(path)
        return key is not None and self._tokens[key].type == "piece"

    def _with_pieces(self, text: str, type: str, theme: Theme) -> str:
        """A text with its pieces put in; a piece itself has all references put in as CSS."""

        length = len(text)

        def put(match: re.Match[str]) -> str:
            path = match[1].strip()
            key = self._by_path.get(path)
            if key is None or not (type == "piece" or self.is_piece(path)):
                return match[0]
            known = self._tokens[key].type
            nonlocal length
            inside = css_value(self._look(path, (known,), theme), known)
            length += len(inside)
            return inside if length <= MAX_TEXT_WITH_PIECES else ""

        written = REFERENCE.sub(put, text)
        if length > MAX_TEXT_WITH_PIECES:
            raise ExpressionError(
                f"With all that it refers to, the value has more than {MAX_TEXT_WITH_PIECES:,} characters."
            )
        return written

    def _look(self, path: str, types: tuple[str, ...], theme: Theme) -> Resolved:
        """What a reference gives; it must be of one of ``types``."""
        target = self._by_path.get(path)
        if target is None:
            raise ExpressionError(f"{{{path}}} does not exist.", fix=self._nearest(path))
        answer = self.resolve(target, theme)
        if answer.type not in types:
            needed = "number or measure" if len(types) > 2 else types[0]
            raise ExpressionError(f"{{{path}}} is a {answer.type}, and a {needed} is needed here.")
        if answer.broken:
            whole = answer.broken.startswith(("Circle", "{"))
            raise PassedOnError(
                answer.broken if whole else f"{{{path}}} is broken: {answer.broken}"
            )
        if answer.value is None:
            raise PassedOnError(f"{{{path}}} has no value in this theme.")
        return answer.value

    def _nearest(self, path: str) -> str:
        """Known paths like one that is not there; said for the first ones only, as it takes time."""
        if path not in self._suggested and len(self._suggested) < _SUGGESTED:
            self._suggested[path] = nearest(path, self._by_path)
        return self._suggested.get(path, "")

    # Why

    def trace(self, key: str, theme: Theme) -> list[Hop]:
        """The token's whole path to its literals, hop by hop, depth first."""
        hops: list[Hop] = []
        work = [(key, 0)]
        seen: set[str] = set()
        while work:
            current, depth = work.pop()
            if current in seen:
                continue
            seen.add(current)
            won = self.winner(current, theme)
            condition, value = won if won is not None else (Condition(), None)
            hops.append(Hop(current, condition, value, self.resolve(current, theme), depth))
            work.extend((target, depth + 1) for target in reversed(self._targets(current, theme)))
        return hops

    def influence(self, key: str) -> tuple[str, ...]:
        """Keys of the axes that can change what the token resolves to, by what it may reach."""
        return self.influence_of([key])

    def influence_of(self, keys: Iterable[str]) -> tuple[str, ...]:
        """Keys of the axes that can change what any of the tokens resolves to."""
        wanted = list(keys)
        for members in self.components(wanted, self._influences):
            found = {axis for member in members for axis in self._tokens[member].axes}
            for member in members:
                for target in self.all_targets(member):
                    found |= self._influences.get(target, frozenset())
            self._influences.update(dict.fromkeys(members, frozenset(found)))
        axes = {axis for key in wanted for axis in self._influences[key]}
        return tuple(self.document.axes[i].key for i in sorted(axes))
