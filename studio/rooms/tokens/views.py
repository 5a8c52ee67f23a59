"""The Tokens room: the sheet, one cell of it opened with its trace, and the page of a token."""

from __future__ import annotations

from collections.abc import Sequence
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from prism import edits
from prism.derive import pasting
from prism.errors import PrismError
from prism.expressions import typed_input
from prism.model.document import TIERS, Axis, Token, shown_path
from prism.model.grouping import separator_of
from prism.model.names import condition_words
from prism.roles import role
from prism.view_models import filters, sheet
from studio.accounts.permissions import requires
from studio.numbers import whole
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.frame import Frame
from studio.rooms.tokens import cells
from studio.rooms.tokens.address import SheetAddress
from studio.rooms.tokens.columns import axis_of, mode_names_of
from studio.rooms.tokens.editor import SheetFrame, both_values, editor
from studio.rooms.tokens.forms import AddForm, AddPastedForm, CellForm, DescribeForm
from studio.rooms.tokens.mapping.intents import INTENTS
from studio.store import projects as store
from studio.store.projects import Project


def enter(request: HttpRequest, project: Project) -> SheetFrame:
    """The frame of the sheet, with everything its address says."""
    return Frame.enter(request, project, "tokens", SheetAddress.read(state_of(request)))


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
    if not asked.asks:
        return frame.document.tokens
    themes = [theme for _, theme in sheet.columns(frame.resolver, axis, frame.theme)]
    return filters.choose(frame.analysis, asked, themes)


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
    blocks = sheet.blocks(
        frame.judging, axis, frame.theme, chosen, folded=address.folded_groups, always=always
    )
    context = {
        "source": _source(frame),
        "axis": axis,
        "heads": sheet.columns(frame.resolver, axis, frame.theme),
        "blocks": _blocks(frame, axis, blocks),
        "count": len(chosen),
        "find": address.find,
        "asked": _filter(frame),
        "states": filters.STATES,
        "types": frame.analysis.types,
        "tiers": TIERS,
        "groups": frame.analysis.groups,
        "kinds": filters.kinds(frame.analysis),
        "roles": role.every(),
        "axis_names": frame.analysis.axis_names,
        "ramps": frame.document.ramps,
        "intents": INTENTS,
        "current_mode": _current_mode(frame, axis),
        "editor": editor(frame, typed, problem, clash),
        "problem": problem,
        "typed": typed,
        "pasted": pasted,
        "fresh": pasting.unknown(frame.document, pasted, axis.key if axis else "")
        if pasted
        else (),
        "adds": address.add,
        "adds_tier": address.add.partition(":")[0],
        "group": address.menu.partition(":")[2] if address.menu else "",
    }
    return page.show(frame, "tokens/room.html", context, status)


def _current_mode(frame: SheetFrame, axis: Axis | None) -> str:
    """The key of the mode of the columns' axis that the theme bar looks at."""
    if axis is None:
        return ""
    return axis.modes[frame.theme[frame.resolver.axis_index[axis.key]]].key


def _source(frame: SheetFrame) -> str:
    """What the address begins with that rows come from when they come into sight."""
    source = reverse("tokens:rows", args=[frame.project.code])
    rest = frame.query(cell=None, view=None)
    return f"{source}{rest}&" if rest else f"{source}?"


def _blocks(frame: SheetFrame, axis: Axis | None, blocks: Sequence[sheet.Block]) -> list[str]:
    """The markup of blocks of rows."""
    columns = 2 + (len(axis.modes) if axis else 1)
    source = _source(frame)
    markup = []
    tier = ""
    places = [
        f"{block.tier}:{'' if block.name == sheet.NO_GROUP else block.name}" for block in blocks
    ]
    ends = {place: number for number, place in enumerate(places)}
    adds = frame.address.add if frame.project.may_edit else ""
    if adds and adds not in ends:
        markup.append(_adder(frame, axis))
    for number, (block, place) in enumerate(zip(blocks, places, strict=True)):
        first = quote(block.tokens[0].key) if block.tokens else ""
        fold = frame.query(folded=frame.address.folding(block.name)) or "?"
        edits_here = block.first and frame.project.may_edit
        markup.append(
            cells.block(
                block,
                _rows(frame, axis, block.lines),
                heads_tier=block.first and block.tier != tier,
                columns=columns,
                fold=fold if block.first else "",
                source=f"{source}from={first}&count={len(block.tokens)}" if block.later else "",
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
    context = {"start": start, "columns": columns, "done": frame.query(add=None) or "?"}
    return render_to_string("tokens/adder.html", context)


@requires("view")
@require_GET
def rows(request: HttpRequest, project: Project) -> HttpResponse:
    """Rows of the sheet that come into sight, from one token on."""
    frame = enter(request, project)
    axis = axis_of(frame)
    ordered = sheet.in_order(_chosen(frame, axis))
    first = request.GET.get("from", "")
    start = next((i for i, token in enumerate(ordered) if token.key == first), len(ordered))
    count = min(whole(request.GET.get("count", ""), sheet.LATER), sheet.LATER)
    wanted = ordered[start : start + count]
    lines = _rows(frame, axis, sheet.lines(frame.judging, axis, frame.theme, wanted))
    return render(request, "tokens/rows.html", {"lines": lines})


def _rows(frame: SheetFrame, axis: Axis | None, lines: Sequence[sheet.Line]) -> list[str]:
    rest = frame.query(cell=None, view=None)
    base = f"{rest}&" if rest else "?"
    names = mode_names_of(frame.analysis, axis)
    roles = frame.analysis.roles
    return [
        cells.markup(line, names, base, frame.address.cell, roles.get(line.token.key))
        for line in lines
    ]


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
        if not isinstance(saved.command, edits.adding.MoveGroup):
            frame.address = frame.address.but(menu="")
        return frame.here

    form = writing.NamedCommandForm(request.POST, edits.adding, edits.tokens)
    return writing.run(frame, form, _refusal(frame), then)
