"""Edits: pure functions from a document to a document.

Each raises ``EditError`` or ``ExpressionError`` and leaves everything as it was where the
result would be wrong.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace

from prism.errors import EditError, ExpressionError
from prism.expressions.syntax import reference_of
from prism.expressions.values import check, leaves, nearest, parse
from prism.model.document import Document, Pairing, Token, shown_path
from prism.model.values import BASE, Absent, Condition, Expression, Value
from prism.resolution.breaks import breaks
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver, Theme

#: A value for a token under a condition; None takes away what is stored there.
Setting = tuple[str, Condition, Value | None]


def set_value(document: Document, key: str, condition: Condition, value: Value) -> Document:
    """Store ``value`` for a token under ``condition``.

    Refused: a value that does not parse as the token's type, a reference to nothing or of
    another type, and a circle in any theme.
    """
    return set_values(document, [(key, condition, value)])


def set_values(document: Document, settings: Iterable[Setting], *, tried: bool = False) -> Document:
    """Store many values at once; refused whole, as ``set_value``, where one of them is wrong.

    What is only ``tried`` and not kept is not looked at for circles and other breaks.
    """
    changed: dict[str, Token] = {}
    moved = []
    for key, condition, value in settings:
        token = changed.get(key) or _token(document, key)
        for axis, mode in condition.picks:
            owner = document.axis(axis)
            if owner is None or all(known.key != mode for known in owner.modes):
                raise EditError("That mode is no longer there.", place=shown_path(token.path))
        values = dict(token.values)
        if condition == BASE and isinstance(value, Absent):
            value = None
        if value is None:
            values.pop(condition, None)
        else:
            try:
                check_value(document, token, value)
            except ExpressionError as error:
                raise error.at(shown_path(token.path)) if len(changed) else error from None
            values[condition] = value
        changed[key] = replace(token, values=tuple(values.items()))
        if condition == BASE and value is not None:
            moved.append(key)
    result = replace(
        document, tokens=tuple(changed.get(token.key, token) for token in document.tokens)
    )
    if not tried:
        refuse_broken(result, *changed, before=document)
    for key in moved:
        result = _moved_by_hand(result, key)
    return result


def _moved_by_hand(document: Document, key: str) -> Document:
    """Mark a step of a ramp that a recipe made as moved."""
    if all(key not in ramp.steps for ramp in document.ramps):
        return document
    return replace(
        document,
        ramps=tuple(
            replace(ramp, moved=(*ramp.moved, key))
            if key in ramp.steps and key not in ramp.moved and ramp.parameters
            else ramp
            for ramp in document.ramps
        ),
    )


def clear_value(document: Document, key: str, condition: Condition) -> Document:
    """Take away what a token holds under exactly ``condition``."""
    token = _token(document, key)
    values = tuple(pair for pair in token.values if pair[0] != condition)
    if len(values) == len(token.values):
        raise EditError("There is no value of its own to clear.", place=shown_path(token.path))
    changed = _put(document, replace(token, values=values))
    refuse_broken(changed, key, before=document)
    return changed


def add_pairing(document: Document, pairing: Pairing) -> Document:
    """Add a pairing at the end."""
    for key in (pairing.foreground, *pairing.backgrounds):
        token = _token(document, key)
        if token.type != "color":
            raise EditError("A pairing is made of colors.", place=shown_path(token.path))
    if not pairing.backgrounds:
        raise EditError("A pairing needs a background.", fix="Name one color token.")
    same = (pairing.foreground, pairing.backgrounds, pairing.use)
    if any((p.foreground, p.backgrounds, p.use) == same for p in document.pairings):
        raise EditError("This pairing already exists.")
    return replace(document, pairings=(*document.pairings, pairing))


def remove_pairing(document: Document, key: str) -> Document:
    """Take a pairing out."""
    rest = tuple(pairing for pairing in document.pairings if pairing.key != key)
    if len(rest) == len(document.pairings):
        raise EditError("That pairing is no longer there.")
    return replace(document, pairings=rest)


def cell_condition(resolver: Resolver, key: str, axis: str, mode: str, theme: Theme) -> Condition:
    """Where a value typed into a cell goes, so that the cell shows it.

    ``theme`` is the cell's theme. The default mode's column writes to whatever holds there
    now, every other column to its own mode, together with what else the present winner asks.
    """
    won = resolver.winner(key, theme)
    condition = won[0] if won is not None else BASE
    owner = resolver.document.axis(axis)
    if condition.mode_on(axis) is not None or (owner is not None and owner.default == mode):
        return condition
    return Condition.of(dict(condition.picks) | {axis: mode})


def condition_in_column(
    document: Document, key: str, axis: str, picks: Mapping[str, str]
) -> Condition:
    """As ``cell_condition`` for the theme of ``picks``, mode by axis; modes and axes that are gone
    are left out. Raises ``EditError`` where the mode of ``axis`` itself is gone."""
    resolver = resolver_of(document)
    token = _token(document, key)
    known = {(known.key, mode.key) for known in document.axes for mode in known.modes}
    if axis and (axis, picks[axis]) not in known:
        raise EditError("That mode is no longer there.", place=shown_path(token.path))
    theme = resolver.theme(
        {axis_key: mode for axis_key, mode in picks.items() if (axis_key, mode) in known}
    )
    return cell_condition(resolver, key, axis, picks[axis], theme) if axis else BASE


def _token(document: Document, key: str) -> Token:
    token = document.token(key)
    if token is None:
        raise EditError("That token is no longer there.")
    return token


def _put(document: Document, token: Token) -> Document:
    return replace(
        document,
        tokens=tuple(token if known.key == token.key else known for known in document.tokens),
    )


def check_value(document: Document, token: Token, value: Value) -> None:
    """Raise ``ExpressionError`` unless ``value`` parses as the token's type and every token it
    refers to is there."""
    if isinstance(value, Expression) and not value.text.strip():
        raise ExpressionError("The value is empty.", fix="Clear the cell to inherit instead.")
    if not (isinstance(value, Expression) and reference_of(value.text)):
        check(value, token.type, lambda path: _is_piece(document, path))
    for expression, expected in leaves(value, token.type):
        for path in parse(expression.text, expected).references:
            if document.token_at(path) is None:
                known = [
                    shown_path(known.path) for known in document.tokens if known.type == expected
                ]
                raise ExpressionError(f"{{{path}}} does not exist.", fix=nearest(path, known))


def _is_piece(document: Document, path: str) -> bool:
    target = document.token_at(path)
    return target is not None and target.type == "piece"


def refuse_broken(document: Document, *keys: str, before: Document | None = None) -> None:
    """Raise ``EditError`` where one of the tokens itself is broken in some theme, a circle
    included, and was not broken like that in ``before``, which the document was made from."""
    resolver = resolver_of(document, resolver_of(before) if before is not None else None)
    for key in keys:
        broken = breaks(resolver, key)
        if before is not None and broken and before.token(key) is not None:
            broken -= breaks(resolver_of(before), key)
        for sentence in sorted(broken):
            raise EditError(sentence, fix="Nothing was changed.")


def refuse_new_breaks(document: Document, before: Document) -> Document:
    """``document`` itself; ``EditError`` where another value wins somewhere and is broken there,
    or a circle closes, that ``before`` had in no theme."""
    resolver = resolver_of(document)
    watched = {token.key for token in document.tokens if len(token.values) > 1}
    for members in resolver.components([token.key for token in document.tokens], ()):
        if len(members) > 1 or members[0] in resolver.all_targets(members[0]):
            watched.update(members)
    refuse_broken(document, *(t.key for t in document.tokens if t.key in watched), before=before)
    return document
