"""The rows of the sheet for one frame: blocks of them, single ones, and the one in which a token is added."""

from __future__ import annotations

from collections.abc import Sequence
from urllib.parse import quote

from django.template.loader import render_to_string
from django.urls import reverse

from prism.expressions.types import TOKEN_TYPES
from prism.model.document import TYPES, Axis
from prism.model.grouping import separator_of
from prism.sheet import grid
from studio.rooms.parts import Part
from studio.sheet import cells
from studio.sheet.columns import mode_names_of, span
from studio.sheet.editor import SheetFrame

#: The types that a token of a part of the palette can be of.
_TYPES = {
    part: tuple(known.name for known in TOKEN_TYPES.values() if known.listed == part)
    for part in ("measures", "texts")
}


def source(frame: SheetFrame) -> str:
    """What the address begins with that rows come from when they come into sight."""
    source = reverse("tokens:rows", args=[frame.project.code])
    rest = frame.query(cell=None, view=None)
    return f"{source}{rest}&" if rest else f"{source}?"


def blocks(frame: SheetFrame, axis: Axis | None, planned: Sequence[grid.Block]) -> list[str]:
    """The markup of blocks of rows."""
    columns = span(axis, in_palette=bool(frame.address.only))
    start = source(frame)
    markup = []
    tier = ""
    places = [
        f"{block.tier}:{'' if block.name == grid.NO_GROUP else block.name}" for block in planned
    ]
    ends = {place: number for number, place in enumerate(places)}
    adds = frame.address.add if frame.project.may_edit else ""
    if adds and adds not in ends:
        markup.append(_adder(frame, axis))
    for number, (block, place) in enumerate(zip(planned, places, strict=True)):
        first = quote(block.tokens[0].key) if block.tokens else ""
        fold = frame.address.shut(folded=frame.address.folding(block.name)) or "?"
        edits_here = block.first and frame.project.may_edit
        markup.append(
            cells.block(
                block,
                rows(frame, axis, block.lines),
                frame.held,
                heads_tier=block.first and block.tier != tier,
                columns=columns,
                fold=fold if block.first else "",
                source=f"{start}from={first}&count={len(block.tokens)}" if block.later else "",
                add=frame.query(add=place, cell=None, menu=None) if edits_here else "",
                menu=frame.query(menu=place, cell=None, add=None) if edits_here else "",
            )
        )
        tier = block.tier
        if adds == place and ends[place] == number:
            markup.append(_adder(frame, axis))
    return markup


def _adder(frame: SheetFrame, axis: Axis | None) -> str:
    """The row in which a token is added to a group."""
    _, _, group = frame.address.add.partition(":")
    typed = frame.request.POST
    base = next((mode.name for mode in axis.modes if mode.key == axis.default), "") if axis else ""
    columns = [
        {
            "field": f"value-{mode.key}",
            "label": f"Value in {mode.name}",
            "hint": "value or token" if mode.name == base else f"as {base}",
            "typed": typed.get(f"value-{mode.key}", ""),
        }
        for mode in (axis.modes if axis else ())
    ] or [
        {
            "field": "value",
            "label": "Value",
            "hint": "value or token",
            "typed": typed.get("value", ""),
        }
    ]
    start = typed.get("path") or (
        f"{group}{separator_of(frame.document.tokens, group)}" if group else ""
    )
    types = _TYPES.get(frame.address.only, TYPES)
    context = {
        "in_roles": not frame.address.only,
        "start": start,
        "columns": columns,
        "span": span(axis, in_palette=bool(frame.address.only)),
        "done": frame.query(add=None) or "?",
        "types": types,
        "type": typed.get("new_type", ""),
    }
    return render_to_string("tokens/adder.html", context)


def rows(frame: SheetFrame, axis: Axis | None, lines: Sequence[grid.Line]) -> list[Part]:
    """Rows of the sheet."""
    rest = frame.query(cell=None, view=None)
    base = f"{rest}&" if rest else "?"
    names = mode_names_of(frame.analysis, axis)
    roles = frame.analysis.roles
    in_roles = not frame.address.only
    return [
        cells.markup(line, names, base, frame.address.cell, roles.get(line.token.key), in_roles)
        for line in lines
    ]
