"""All answers of a token at once, as a table over parts of the space of themes.

A part fixes the mode of some axes and leaves the others free (-1). The parts of a token do not
overlap and leave no theme out, and in each the token has one answer. A table is made from the
tables of what the token refers to, so a plain alias costs no evaluation at all.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from itertools import product

from prism.resolution.answers import Answer
from prism.resolution.resolver import Resolver, Theme

#: The position of the mode fixed on each axis, -1 where it is free.
Fixed = tuple[int, ...]
Rows = list[tuple[Fixed, Answer]]


class AnswerTables:
    """Tables of one resolver's tokens, made when they are asked for; the resolver learns them.

    ``before`` are those of the document that this one was made from: what no change reached is taken
    from there.
    """

    def __init__(self, resolver: Resolver, before: AnswerTables | None = None) -> None:
        self.resolver = resolver
        self._known: dict[str, Rows] = {}
        self._lacking: dict[str, bool] = {}
        reached = resolver.reached_since(before.resolver) if before is not None else None
        if before is not None and reached is not None:
            known = before._known.copy().items()  # another thread may add to it
            self._known = {key: rows for key, rows in known if key not in reached}
            lacking = before._lacking.copy().items()
            self._lacking = {key: lacks for key, lacks in lacking if key not in reached}
        # Few parts are distinct, and every row of every table is one of them.
        self._parts: dict[Fixed, Fixed] = {}
        self._themes: dict[Fixed, Theme] = {}
        self._default = resolver.default_theme
        self._free: Fixed = (-1,) * len(resolver.document.axes)

    def of(self, key: str) -> Rows:
        """The parts in which the token has one answer, with it."""
        if key not in self._known:
            for members in self.resolver.components([key], self._known):
                for member in members:
                    circular = len(members) > 1 or member in self.resolver.all_targets(member)
                    self._known[member] = (
                        self._explored(member) if circular else self._composed(member)
                    )
        return self._known[key]

    def lacks_color(self, key: str) -> bool:
        """Whether the token has no color of its own in some theme."""
        if key not in self._lacking:
            self._lacking[key] = any(answer.color is None for _, answer in self.of(key))
        return self._lacking[key]

    def all(self) -> int:
        """Make the table of every token; returns how many parts there are in all."""
        return sum(len(self.of(token.key)) for token in self.resolver.document.tokens)

    def joint(self, keys: Sequence[str]) -> list[Fixed]:
        """The parts in which each of several tokens has one answer."""
        parts = [self._free]
        for key in dict.fromkeys(keys):
            parts = [
                merged
                for part in parts
                for fixed, _ in self.of(key)
                if (merged := common(part, fixed)) is not None
            ]
        return parts

    def theme(self, fixed: Fixed) -> Theme:
        """One theme within a part; free axes are at their default."""
        if fixed not in self._themes:
            pairs = zip(fixed, self._default, strict=True)
            self._themes[fixed] = tuple(d if mode < 0 else mode for mode, d in pairs)
        return self._themes[fixed]

    def share(self, fixed: Fixed) -> int:
        """How many themes a part holds."""
        count = 1
        for mode, axis in zip(fixed, self.resolver.document.axes, strict=True):
            count *= len(axis.modes) if mode < 0 else 1
        return count

    def _composed(self, key: str) -> Rows:
        """A table from the tables of what the token refers to, all of which are known."""
        resolver = self.resolver
        token = resolver.document.token(key)
        assert token is not None
        own = resolver.own_axes(key)
        sizes = [range(len(resolver.document.axes[axis].modes)) for axis in own]
        rows: Rows = []
        for modes in product(*sizes):
            start = list(self._free)
            for axis, mode in zip(own, modes, strict=True):
                start[axis] = mode
            here = tuple(start)
            alias, targets = resolver.winning_targets(key, self.theme(here))
            if alias:
                self._aliased(
                    key, token.type, here, list(zip(own, modes, strict=True)), alias, rows
                )
                continue
            parts = [here]
            for target in targets:
                parts = [
                    merged
                    for part in parts
                    for fixed, _ in self._known[target]
                    if (merged := common(part, fixed)) is not None
                ]
            for part in parts:
                part = self._parts.setdefault(part, part)
                rows.append((part, resolver.evaluate(key, self.theme(part))))
        resolver.learn(key, rows)
        return rows

    def _aliased(
        self,
        key: str,
        type: str,
        here: Fixed,
        marks: list[tuple[int, int]],
        target: str,
        rows: Rows,
    ) -> None:
        """Rows of a plain alias: those of its target that agree with the own modes."""
        for fixed, answer in self._known[target]:
            for axis, mode in marks:
                if fixed[axis] not in (-1, mode):
                    break
            else:
                part = fixed
                if marks:
                    merged = list(fixed)
                    for axis, mode in marks:
                        merged[axis] = mode
                    part = tuple(merged)
                    part = self._parts.setdefault(part, part)
                if answer.value is None or answer.mapped or answer.type != type:
                    answer = self.resolver.evaluate(key, self.theme(part))
                rows.append((part, answer))

    def _explored(self, key: str) -> Rows:
        """The table of a token that may stand in a circle, axis by axis."""
        rows: Rows = []
        work = [self._free]
        while work:
            fixed = work.pop()
            theme = self.theme(fixed)
            free = next((a for a in self.resolver.consulted(key, theme) if fixed[a] < 0), None)
            if free is None:
                rows.append((fixed, self.resolver.resolve(key, theme)))
                continue
            for mode in range(len(self.resolver.document.axes[free].modes)):
                work.append((*fixed[:free], mode, *fixed[free + 1 :]))
        return rows


def common(first: Fixed, other: Fixed) -> Fixed | None:
    """The part that lies in both; None where they have no theme in common."""
    merged = []
    for a, b in zip(first, other, strict=True):
        if a < 0:
            merged.append(b)
        elif b in (-1, a):
            merged.append(a)
        else:
            return None
    return tuple(merged)


def holds(fixed: Fixed, theme: Theme) -> bool:
    """Whether a theme lies within a part."""
    return all(mode in (-1, there) for mode, there in zip(fixed, theme, strict=True))


def find(rows: Iterable[tuple[Fixed, Answer]], theme: Theme) -> Answer:
    """The answer of a table in one theme."""
    return next(answer for fixed, answer in rows if holds(fixed, theme))
