"""The open cell: its value with its trace, or the page of its token."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from prism.changes.values import cell_condition
from prism.compare.rows import condition_text
from prism.expressions import typed_input
from prism.expressions.values import decode
from prism.model.document import TYPES, Axis, Document, Mode, Token
from prism.model.names import condition_words
from prism.model.values import BASE, Condition
from prism.roles import role
from prism.sheet import details, grid, trace
from studio.rooms.frame import Frame
from studio.sheet.address import SheetAddress
from studio.sheet.columns import axis_of, mode_names_of
from studio.store import projects as store

SheetFrame = Frame[SheetAddress]


def editor(
    frame: SheetFrame, typed: str | None, problem: str | None, clash: dict[str, str] | None
) -> dict[str, Any] | None:
    """What the open cell shows, or None."""
    token = frame.document.token(frame.address.open_token)
    if token is None:
        return None
    axis, resolver = axis_of(frame), frame.resolver
    names = mode_names_of(frame.analysis, axis)
    columns = grid.columns(resolver, axis, frame.theme)
    open_mode = frame.address.open_mode
    mode, theme = next(
        ((mode, theme) for mode, theme in columns if mode and names[mode.key] == open_mode),
        (None, frame.theme),
    )
    cell = grid.cell(resolver, token, axis, mode, theme)
    target = BASE
    if mode is not None and axis is not None:
        target = cell_condition(resolver, token.key, axis.key, mode.key, theme)
    shown: dict[str, Any] = {
        "cell": cell,
        "token": token,
        "mode": mode,
        "axis": axis,
        "typed": typed_input.typed(cell.value, token.type) if typed is None else typed,
        "problem": problem,
        "clash": clash,
        "conditions": _conditions(frame.document, token, target, axis, mode),
        "clearable": token.value(target) is not None and (target != BASE or len(token.values) > 1),
        "picture": trace.picture(resolver, token.key, theme),
        "others": details.same_color(resolver, token.key, theme),
        "influence": _influence(frame, token),
        "cell_id": f"{token.key}:{open_mode}",
        "mode_name": open_mode,
        "is_reference": token.type == "color",
    }
    if frame.address.view == "page":
        shown |= _details(frame, token)
    return shown


def _details(frame: SheetFrame, token: Token) -> dict[str, Any]:
    """What the token's page shows beside its open cell."""
    known = frame.analysis.roles.get(token.key)
    return {
        "page": details.page(frame.paired_resolver, token),
        "role": known,
        "roles": role.every(),
        "types": TYPES,
        "owner": frame.document.token(known.belongs_to) if known else None,
        "owners": details.owners(frame.analysis),
        "history": store.history(frame.project, token.key),
    }


def _influence(frame: SheetFrame, token: Token) -> list[str]:
    """Names of the axes that can change what a token resolves to."""
    keys = frame.resolver.influence(token.key)
    return [axis.name for key in keys if (axis := frame.document.axis(key))]


def _conditions(
    document: Document, token: Token, target: Condition, axis: Axis | None, mode: Mode | None
) -> list[dict[str, Any]]:
    """Where a value may go: what the cell proposes, what is there, base and this mode."""
    offered: Sequence[Condition] = (target, *(held for held, _ in token.values), BASE)
    if axis is not None and mode is not None:
        offered = (*offered, Condition(((axis.key, mode.key),)))
    return [
        {
            "text": condition_text(condition),
            "words": condition_words(document, condition),
            "stored": token.value(condition) is not None,
        }
        for condition in dict.fromkeys(offered)
    ]


def both_values(error: store.ClashError, token: Token | None) -> dict[str, str] | None:
    """Both values of a cell that two people changed, or None for another clash."""
    clash = error.clashes[0]
    if token is None or clash.kind != "value" or clash.mine is None or clash.theirs is None:
        return None
    mine, theirs = (
        decode(side["text"] if isinstance(side, dict) else side)
        for side in (clash.mine, clash.theirs)
    )
    return {
        "mine": typed_input.typed(mine, token.type),
        "theirs": typed_input.typed(theirs, token.type),
        "who": error.who(clash),
    }
