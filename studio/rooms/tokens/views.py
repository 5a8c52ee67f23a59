"""The Tokens room: the sheet, one cell of it opened with its trace, and the page of a token."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET, require_POST

from prism.errors import PrismError
from prism.expressions import typed_input
from prism.measures import scales
from prism.model.document import TIERS, Axis, Token, shown_path
from prism.model.names import condition_words
from prism.roles import role
from prism.sheet import filters, grid, paste, row_commands, token_commands
from prism.sheet.row_commands import MoveGroup
from studio.accounts.permissions import requires
from studio.numbers import whole
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.frame import Frame
from studio.rooms.tokens import markup
from studio.rooms.tokens.address import SheetAddress
from studio.rooms.tokens.columns import axis_of, mode_names_of
from studio.rooms.tokens.editor import SheetFrame, both_values, editor
from studio.rooms.tokens.forms import AddForm, AddPastedForm, CellForm, DescribeForm
from studio.rooms.tokens.mapping.intents import INTENTS
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


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """The sheet, with the cell that the address names open below it."""
    return show_sheet(enter(request, project))


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


def _chosen(frame: SheetFrame, axis: Axis | None) -> Sequence[Token]:
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
    chosen = _chosen(frame, axis)
    address = frame.address
    always = {address.open_token, frame.request.headers.get("X-Focus") or ""}
    blocks = grid.blocks(
        frame.judging, axis, frame.theme, chosen, folded=address.folded_groups, always=always
    )
    context = {
        "source": markup.source(frame),
        "axis": axis,
        "heads": grid.columns(frame.resolver, axis, frame.theme),
        "blocks": markup.blocks(frame, axis, blocks),
        "count": len(chosen),
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


@requires("view")
@require_GET
def rows(request: HttpRequest, project: Project) -> HttpResponse:
    """Rows of the sheet that come into sight, from one token on."""
    frame = enter(request, project)
    axis = axis_of(frame)
    ordered = grid.in_order(_chosen(frame, axis))
    first = request.GET.get("from", "")
    start = next((i for i, token in enumerate(ordered) if token.key == first), len(ordered))
    count = min(whole(request.GET.get("count", ""), grid.LATER), grid.LATER)
    wanted = ordered[start : start + count]
    lines = markup.rows(frame, axis, grid.lines(frame.judging, axis, frame.theme, wanted))
    return render(request, "tokens/rows.html", {"lines": [line.whole for line in lines]})


@requires("edit")
@require_POST
def store_cell(request: HttpRequest, project: Project) -> HttpResponse:
    """Store or clear the value of a cell, or let the one stand that somebody else stored."""
    frame = enter(request, project)
    form = CellForm(request.POST, frame)
    if not form.is_valid():
        problem = f"Nothing was stored. {writing.problems(form)}"
        return show_sheet(frame, problem=problem, status=400)
    typed = form.cleaned_data["value"]
    try:
        if form.cleaned_data["keep"]:
            _keep(frame, form)
        else:
            writing.save(frame, form)
    except store.ClashError as error:
        project.refresh_from_db()
        fresh = _opened(enter(request, project), form)
        return show_sheet(
            fresh,
            typed,
            str(error),
            both_values(error, frame.document.token(form.cleaned_data["token"])),
            409,
        )
    except PrismError as error:
        return show_sheet(_opened(frame, form), typed, str(error), status=422)
    return page.stored(frame, lambda: show_sheet(enter(request, project)))


def _opened(frame: SheetFrame, form: CellForm) -> SheetFrame:
    """The frame with the cell open that something was typed into."""
    values = form.cleaned_data
    if values["typed"]:
        names = mode_names_of(frame.analysis, axis_of(frame))
        cell = f"{values['token']}:{names.get(values['mode'], '')}"
        frame.address = frame.address.but(cell=cell)
    return frame


def _keep(frame: SheetFrame, form: CellForm) -> None:
    token = frame.document.token(form.cleaned_data["token"])
    condition = form.target(frame.document)
    value = token.value(condition) if token else None
    if token is None or value is None:
        raise PrismError("That value is no longer there.")
    sentence = (
        f"Kept {typed_input.typed(value, token.type)[:60]} over {form.cleaned_data['value'].strip()[:60]} in "
        f"{shown_path(token.path)} for {condition_words(frame.document, condition)}"
    )
    store.note_kept(frame.project, frame.person, token.key, condition, sentence)


def _refusal(frame: SheetFrame, pasted: str = "") -> writing.Refuse:
    """Shows the sheet with what is wrong, and with what was pasted."""
    return lambda problem, status: show_sheet(frame, problem=problem, status=status, pasted=pasted)


@requires("edit")
@require_POST
def describe(request: HttpRequest, project: Project) -> HttpResponse:
    """Store what is said of a token beside its values."""
    frame = enter(request, project)

    return writing.run(frame, DescribeForm(request.POST), _refusal(frame))


@requires("edit")
@require_POST
def add(request: HttpRequest, project: Project) -> HttpResponse:
    """Add a token, and go on adding to its group."""
    frame = enter(request, project)

    return writing.run(frame, AddForm(request.POST, frame), _refusal(frame))


@requires("edit")
@require_POST
def add_pasted(request: HttpRequest, project: Project) -> HttpResponse:
    """Add a token for each pasted name that is none yet."""
    frame = enter(request, project)
    refuse = _refusal(frame, request.POST.get("text", ""))
    return writing.run(frame, AddPastedForm(request.POST, frame), refuse)


@requires("edit")
@require_POST
def command(request: HttpRequest, project: Project) -> HttpResponse:
    """Run a command on a group or a token of the sheet."""
    frame = enter(request, project)

    def then(saved: store.Saved) -> str:
        if saved.loaded.document.token(frame.address.open_token) is None:
            frame.address = frame.address.but(cell="", view="")
        if not isinstance(saved.command, MoveGroup):
            frame.address = frame.address.but(menu="")
        return frame.here

    form = writing.NamedCommandForm(request.POST, row_commands, token_commands)
    return writing.run(frame, form, _refusal(frame), then)
