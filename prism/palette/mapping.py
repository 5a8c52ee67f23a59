"""Many cells at once: mapped to another ramp, shifted or mirrored along it, copied, cleared.

A cell is a token and the condition its value is stored under. Where a cell refers to a step, its
ladder is the ramp of that step, or the group of tokens it lies in.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

from prism.changes.outcome import Outcome
from prism.changes.values import Setting, cell_condition, set_values
from prism.errors import EditError
from prism.expressions.syntax import reference_of
from prism.expressions.typed_input import read_typed, reference_to, shown_path_or_root
from prism.expressions.values import references, rewrite
from prism.model.document import Document, Token, shown_path
from prism.model.values import BASE, Condition, Expression, Value
from prism.palette import alike, ramp_edits
from prism.resolution.resolver import Resolver, Theme

#: The number at the end of a flat name, as of ``brand-500``.
_NUMBER = re.compile(r"\d+$")


@dataclass(frozen=True, slots=True)
class Place:
    """A token as it stands in one theme: where a new value goes, and what is there now."""

    token: Token
    theme: Theme
    condition: Condition
    value: Value | None


def places(
    resolver: Resolver, keys: Iterable[str], axis: str, modes: Sequence[str], theme: Theme
) -> list[Place]:
    """The cells of tokens in some modes of an axis, all else as in ``theme``.

    Without an axis there is one cell a token. What goes nowhere of its own is left out.
    """
    _known_modes(resolver, axis, modes)
    places: dict[tuple[str, Condition], Place] = {}
    for key in keys:
        token = resolver.document.token(key)
        if token is None:
            raise EditError("One of the tokens is no longer there.")
        for mode in modes if axis else ("",):
            at = resolver.theme(resolver.picks(theme) | {axis: mode}) if axis else theme
            won = resolver.winner(key, at)
            condition = cell_condition(resolver, key, axis, mode, at) if axis else BASE
            place = Place(token, at, condition, won[1] if won else None)
            places.setdefault((key, condition), place)
    return list(places.values())


def _known_modes(resolver: Resolver, axis: str, modes: Iterable[str]) -> None:
    """Raise ``EditError`` where an axis has not all of these modes."""
    owner = resolver.document.axis(axis)
    known = {mode.key for mode in owner.modes} if owner else set()
    if axis and not known.issuperset(modes):
        raise EditError("That mode is no longer there.", fix="Select cells in the sheet.")


def ladder_of(document: Document, value: Value | None) -> tuple[tuple[str, ...], int] | None:
    """The steps a value stands on, by key, and its place among them; None for no reference.

    They are the steps of the ramp that the referenced token is one of, else the tokens of its
    type beside it in its group; at least three.
    """
    path = reference_of(value.text) if isinstance(value, Expression) else ""
    token = document.token_at(path) if path else None
    if token is None:
        return None
    ramp = ramp_edits.ramp_with(document, token.key)
    if ramp is not None:
        return (ramp.steps, ramp.steps.index(token.key)) if len(ramp.steps) >= 3 else None
    beside = tuple(
        sibling.key
        for sibling in document.tokens
        if sibling.type == token.type and _is_beside(sibling, token)
    )
    return (beside, beside.index(token.key)) if len(beside) >= 3 else None


def _is_beside(sibling: Token, token: Token) -> bool:
    """Whether two tokens lie in one group, or have flat names that differ by a number alone."""
    if token.group or sibling.group:
        return sibling.group == token.group
    start = _NUMBER.sub("", token.path)
    return start != token.path and _NUMBER.sub("", sibling.path) == start != sibling.path


def along(
    document: Document, value: Value | None, type: str, turn: Callable[[tuple[str, ...], int], str]
) -> Value | None:
    """A value with each reference in it that stands on a ladder turned to another step of that.

    ``turn`` is given the steps and the place among them, and gives the key of a step. Inside a
    larger expression only rungs are turned, because other tokens beside each other there, such as
    states, are no steps of anything. None where nothing is turned.
    """
    if not isinstance(value, Expression):
        return None
    whole = reference_of(value.text)
    renamed = {}
    for path in references(value, type):
        token = document.token_at(path)
        ladder = ladder_of(document, Expression("{" + path + "}"))
        if token is None or ladder is None or not (whole or is_rung(document, token)):
            continue
        target = document.token(turn(*ladder))
        assert target is not None
        renamed[path] = shown_path_or_root(document, target)
    return rewrite(value, type, renamed) if renamed else None


def is_rung(document: Document, token: Token) -> bool:
    """Whether a token is a raw color or a step of a ladder that others stand on, as ``accent.8``."""
    if token.tier == "raw":
        return True
    if not token.leaf.isdigit() or not token.group:
        return False
    beside = [sibling for sibling in document.tokens if sibling.group == token.group]
    return sum(sibling.leaf.isdigit() for sibling in beside) >= 5


def opposite(steps: tuple[str, ...], place: int) -> str:
    """The step as far from the other end of a ladder."""
    return steps[len(steps) - 1 - place]


def shift(document: Document, cells: Sequence[Place], by: int) -> Outcome:
    """Move each cell ``by`` steps along its ladder, not beyond its ends."""

    def turn(steps: tuple[str, ...], place: int) -> str:
        return steps[min(max(place + by, 0), len(steps) - 1)]

    return _along(document, cells, turn)


def mirror(document: Document, cells: Sequence[Place]) -> Outcome:
    """Move each cell to the step as far from the other end of its ladder."""
    return _along(document, cells, opposite)


def map_to(document: Document, cells: Sequence[Place], ramp: str) -> Outcome:
    """Let each cell stand on the like step of another ramp."""
    target = ramp_edits.ramp_of(document, ramp)

    def turn(steps: tuple[str, ...], place: int) -> str:
        return alike.alike(document, steps, target.steps)[steps[place]]

    return _along(document, cells, turn)


def _along(
    document: Document, cells: Sequence[Place], turn: Callable[[tuple[str, ...], int], str]
) -> Outcome:
    settings: list[Setting] = []
    skipped = []
    for cell in cells:
        turned = along(document, cell.value, cell.token.type, turn)
        if turned is None:
            skipped.append(shown_path(cell.token.path))
        else:
            settings.append((cell.token.key, cell.condition, turned))
    return _done(document, cells, settings, skipped)


def put(document: Document, cells: Sequence[Place], text: str) -> Outcome:
    """Give every cell the value that ``text`` means for its token."""
    settings: list[Setting] = [
        (cell.token.key, cell.condition, read_typed(document, text, cell.token)) for cell in cells
    ]
    return _done(document, cells, settings)


def fill(document: Document, cells: Sequence[Place], step: int = 0) -> Outcome:
    """Give the cells below the first of each column its value, or what stands ``step`` further along
    its ladder from row to row; what would be beyond the ladder's end is left alone."""
    columns: dict[Theme, list[Place]] = {}
    for cell in cells:
        columns.setdefault(cell.theme, []).append(cell)
    if all(len(column) < 2 for column in columns.values()):
        raise EditError("There is nothing below the first row.", fix="Select several rows.")
    settings: list[Setting] = []
    skipped = []
    for first, *rest in columns.values():
        ladder = ladder_of(document, first.value) if step else None
        for down, cell in enumerate(rest, start=1):
            value = first.value if not step else None
            if ladder is not None and 0 <= ladder[1] + down * step < len(ladder[0]):
                target = document.token(ladder[0][ladder[1] + down * step])
                assert target is not None
                value = reference_to(document, target)
            if value is None or cell.token.type != first.token.type:
                skipped.append(shown_path(cell.token.path))
            else:
                settings.append((cell.token.key, cell.condition, value))
    return _done(document, cells, settings, skipped)


def clear(document: Document, cells: Sequence[Place]) -> Outcome:
    """Take away what the cells hold; a base value stays where it is the token's only one."""
    settings: list[Setting] = []
    skipped = []
    for cell in cells:
        stored = cell.token.value(cell.condition) is not None
        if not stored or (cell.condition == BASE and len(cell.token.values) == 1):
            skipped.append(shown_path(cell.token.path))
        else:
            settings.append((cell.token.key, cell.condition, None))
    return _done(document, cells, settings, skipped)


def wrap_opacity(document: Document, cells: Sequence[Place], percent: int) -> Outcome:
    """Let every color cell cover ``percent`` of what it covers now."""
    if not 1 <= percent <= 99:
        raise EditError("An opacity is 1 to 99 percent.")
    settings: list[Setting] = []
    skipped = []
    for cell in cells:
        if cell.token.type != "color" or not isinstance(cell.value, Expression):
            skipped.append(shown_path(cell.token.path))
            continue
        text = f"rgb(from {cell.value.text} r g b / calc(alpha * {percent / 100:g}))"
        settings.append((cell.token.key, cell.condition, Expression(text)))
    return _done(document, cells, settings, skipped)


def copy_mode(
    resolver: Resolver, keys: Iterable[str], axis: str, source: str, target: str, theme: Theme
) -> Outcome:
    """Store for each token in mode ``target`` what holds for it in mode ``source``."""
    document = resolver.document
    _known_modes(resolver, axis, [source, target])
    there = places(resolver, keys, axis, [target], theme)
    settings: list[Setting] = []
    at = resolver.theme(resolver.picks(theme) | {axis: source})
    for cell in there:
        won = resolver.winner(cell.token.key, at)
        if won is not None:
            settings.append((cell.token.key, cell.condition, won[1]))
    return _done(document, there, settings)


def _done(
    document: Document,
    cells: Sequence[Place],
    settings: Sequence[Setting],
    skipped: Sequence[str] = (),
) -> Outcome:
    stored = {(cell.token.key, cell.condition): cell.value for cell in cells}
    fresh = []
    for key, condition, value in settings:
        token = document.token(key)
        same = value is not None and stored.get((key, condition)) == value
        if not same or (token is not None and value is None):
            fresh.append((key, condition, value))
    if not fresh:
        return Outcome(document, 0, tuple(dict.fromkeys(skipped)))
    changed = set_values(document, fresh)
    return Outcome(changed, len(fresh), tuple(dict.fromkeys(skipped)))
