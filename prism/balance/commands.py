"""What makes colors stand out alike in two modes."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from prism.balance import prominence
from prism.balance.prominence import Standing
from prism.changes.values import set_values
from prism.commands.command import Command, asked, command
from prism.commands.names import mode_name, short
from prism.errors import EditError
from prism.model.document import Document, shown_path
from prism.model.values import BASE, Condition
from prism.resolution.current import resolver_of
from prism.roles import rules
from prism.roles.guess import guess


def _standings(
    document: Document, axis: str, standard: str, mode: str, picks: dict[str, str]
) -> Iterator[Standing]:
    """How all colors that are judged stand. Raises ``EditError`` where a mode is gone."""
    owner = document.axis(axis)
    modes = {known.key for known in owner.modes} if owner else set()
    if not {standard, mode} <= modes:
        raise EditError("That mode is no longer there.")
    guesses = guess(document, resolver_of(document))
    judged = rules.joined(document, rules.kept(document, guesses))
    pairs = prominence.grounds(judged, guesses)
    yield from prominence.standings(document, pairs, axis, standard, mode, picks)


@command("make-even")
@dataclass(frozen=True, slots=True)
class MakeEven(Command):
    """Let a color stand out in a mode as in the one it was designed for, with the other axes as in
    ``where``; or by ``gap`` L* points, where that is given."""

    token: str
    axis: str
    standard: str
    mode: str
    where: Condition = BASE
    gap: str = asked("stands out by", default="")

    def apply(self, document: Document) -> Document:
        known = _standings(document, self.axis, self.standard, self.mode, dict(self.where.picks))
        standing = next((standing for standing in known if standing.token == self.token), None)
        if standing is None:
            raise EditError("That color is no longer there.")
        even = prominence.even(document, standing, {self.axis: self.mode}, self._wanted(standing))
        if even is None:
            raise EditError(
                "This color is computed from others or is a color of the palette.",
                fix="Change what it refers to.",
            )
        return set_values(document, [prominence.setting(even)])

    def _wanted(self, standing: Standing) -> float:
        """The distance that is asked for. Raises ``EditError`` where the text is none."""
        if not self.gap.strip():
            return abs(standing.standard.gap)
        try:
            gap = float(self.gap)
        except ValueError:
            raise EditError(f"“{self.gap[:20]}” is not a number.") from None
        if not (math.isfinite(gap) and 0 <= gap <= 100):
            raise EditError("A distance lies between 0 and 100.")
        return gap

    def sentence(self, before: Document) -> str:
        token = before.token(self.token)
        mode, standard = (mode_name(before, self.axis, key) for key in (self.mode, self.standard))
        name = shown_path(token.path) if token else self.token
        if self.gap.strip():
            return f"Set how strongly {short(name)} stands out in {mode}"
        return f"Made {short(name)} as strong in {mode} as in {standard}"


@command("make-all-even")
@dataclass(frozen=True, slots=True)
class MakeAllEven(Command):
    """Let every color that carries a brand or a meaning stand out in a mode as in another one, for each
    brand."""

    axis: str
    standard: str
    mode: str

    def apply(self, document: Document) -> Document:
        changed = document
        for _, picks in prominence.brand_themes(document, {}):
            known = list(_standings(changed, self.axis, self.standard, self.mode, picks))
            for standing in known:
                fresh = next(
                    standing
                    for standing in prominence.standings(
                        changed, [(standing.token, standing.ground)], self.axis, self.standard,
                        self.mode, picks,
                    )
                )  # fmt: skip
                if fresh.is_even:
                    continue
                gap = abs(fresh.standard.gap)
                even = prominence.even(changed, fresh, {self.axis: self.mode}, gap)
                if even is not None:
                    changed = set_values(changed, [prominence.setting(even)])
        if changed is document:
            raise EditError("Every color is even already, or cannot be moved.")
        return changed

    def sentence(self, before: Document) -> str:
        mode, standard = (mode_name(before, self.axis, key) for key in (self.mode, self.standard))
        return f"Made every color as strong in {mode} as in {standard}"
