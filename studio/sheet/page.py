"""The sheet as a page: what its address says, the rows that it names, and what is open below them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.http import HttpRequest, HttpResponse

from prism.measures import scales
from prism.model.document import TIERS, Axis, Token
from prism.roles import role
from prism.sheet import filters, grid, paste
from studio.numbers import whole
from studio.rooms import page
from studio.rooms.address import state_of
from studio.rooms.frame import Frame
from studio.sheet import markup
from studio.sheet.address import SheetAddress
from studio.sheet.columns import axis_of, span
from studio.sheet.editor import SheetFrame, editor
from studio.sheet.intents import INTENTS
from studio.store import projects as store
from studio.store.projects import Project

#: The page of each part of the palette that is a sheet of its own.
_PAGES = {"measures": "measures:room", "texts": "measures:copy"}


def enter(request: HttpRequest, project: Project, only: str = "") -> SheetFrame:
    """The frame of the sheet, or of the part of the palette that ``only`` or the address names, with
    everything its address says."""
    address = SheetAddress.read(state_of(request))
    part = only or address.only
    if not part:
        return Frame.enter(request, project, "tokens", address)
    address = address.but(only=part)
    frame: SheetFrame = Frame.enter(request, project, "palette", address, _PAGES[part])
    axis = scales.usual_axis(frame.document, part)
    if axis is not None and not address.columns:
        frame.address = frame.address.but(columns=frame.analysis.axis_names[axis.key])
    return frame


def _filter(frame: SheetFrame) -> filters.Filter:
    address = frame.address
    changed: frozenset[str] = frozenset()
    if address.state == "changed":
        revision = whole(address.since, max(frame.loaded.revision - 20, 0))
        changed = frozenset(store.changed_since(frame.project, revision))
    return filters.Filter(
        address.find,
        address.type,
        address.tier,
        address.group,
        address.role,
        address.state,
        changed,
    )


def chosen(frame: SheetFrame, axis: Axis | None) -> Sequence[Token]:
    asked = _filter(frame)
    tokens: Sequence[Token] = frame.document.tokens
    if asked.asks:
        themes = [theme for _, theme in grid.columns(frame.resolver, axis, frame.theme)]
        tokens = filters.choose(frame.analysis, asked, themes)
    if frame.address.only:
        belongs, _ = scales.PARTS[frame.address.only]
        tokens = [token for token in tokens if belongs(token)]
    return tokens


def show_sheet(
    frame: SheetFrame,
    typed: str | None = None,
    problem: str | None = None,
    clash: dict[str, str] | None = None,
    status: int = 200,
    pasted: str = "",
) -> HttpResponse:
    """The sheet as a page; what was typed and what is wrong with it where something was refused.
    ``pasted`` is a text with names that may be added as tokens."""
    axis = axis_of(frame)
    tokens = chosen(frame, axis)
    address = frame.address
    always = {address.open_token, frame.request.headers.get("X-Focus") or ""}
    blocks = grid.blocks(
        frame.paired_resolver,
        axis,
        frame.theme,
        tokens,
        folded=address.folded_groups,
        always=always,
    )
    context = {
        "source": markup.source(frame),
        "axis": axis,
        "heads": grid.columns(frame.resolver, axis, frame.theme),
        "span": span(axis, in_palette=bool(address.only)),
        "blocks": markup.blocks(frame, axis, blocks),
        "count": len(tokens),
        "find": address.find,
        **_about_filters(frame),
        "roles": role.every(),
        "axis_names": frame.analysis.axis_names,
        "ramps": frame.document.ramps,
        "intents": INTENTS,
        "current_mode": _current_mode(frame, axis),
        "editor": editor(frame, typed, problem, clash),
        "problem": problem,
        "typed": typed,
        **_about_adding(frame, axis, pasted),
        "group": address.menu.partition(":")[2] if address.menu else "",
        **_about_part(frame),
    }
    template = "measures/room.html" if address.only else "tokens/room.html"
    return page.show(frame, template, context, status)


def _about_filters(frame: SheetFrame) -> dict[str, Any]:
    """What the rows can be filtered by."""
    return {
        "asked": _filter(frame),
        "states": filters.STATES,
        "types": frame.analysis.types,
        "tiers": TIERS,
        "groups": frame.analysis.groups,
        "kinds": filters.kinds(frame.analysis),
    }


def _about_part(frame: SheetFrame) -> dict[str, Any]:
    """What a part of the palette says beside its sheet."""
    if not frame.address.only:
        return {}
    kinds = scales.KINDS
    return {
        "part": frame.address.only,
        "kinds": kinds,
        "kind": next((kind for kind in kinds if kind.id == frame.address.scale), None),
        "sent": dict(frame.request.POST.items()),
    }


def _about_adding(frame: SheetFrame, axis: Axis | None, pasted: str) -> dict[str, Any]:
    """Where a token is being added, and the names of ``pasted`` that are new."""
    fresh = paste.unknown(frame.document, pasted, axis.key if axis else "") if pasted else ()
    return {
        "pasted": pasted,
        "fresh": fresh,
        "adds": frame.address.add,
        "adds_tier": frame.address.add.partition(":")[0],
    }


def _current_mode(frame: SheetFrame, axis: Axis | None) -> str:
    """The key of the mode of the columns' axis that the theme bar looks at."""
    if axis is None:
        return ""
    return axis.modes[frame.theme[frame.resolver.axis_index[axis.key]]].key
