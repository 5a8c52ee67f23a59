"""The Tokens room: the sheet, one cell of it opened with its trace, and the page of a token."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET, require_POST

from prism.errors import PrismError
from prism.expressions import typed_input
from prism.model.document import shown_path
from prism.model.names import condition_words
from prism.sheet import grid, row_commands, token_commands
from prism.sheet.row_commands import MoveGroup
from studio.accounts.permissions import requires
from studio.numbers import whole
from studio.rooms import page, writing
from studio.rooms.tokens.forms import AddForm, AddPastedForm, CellForm, DescribeForm
from studio.sheet import markup
from studio.sheet.columns import axis_of, mode_names_of
from studio.sheet.editor import SheetFrame, both_values
from studio.sheet.page import chosen, enter, show_sheet
from studio.store import projects as store
from studio.store.projects import Project


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """The sheet, with the cell that the address names open below it."""
    return show_sheet(enter(request, project))


@requires("view")
@require_GET
def rows(request: HttpRequest, project: Project) -> HttpResponse:
    """Rows of the sheet that come into sight, from one token on."""
    frame = enter(request, project)
    axis = axis_of(frame)
    ordered = grid.in_order(chosen(frame, axis))
    first = request.GET.get("from", "")
    start = next((i for i, token in enumerate(ordered) if token.key == first), len(ordered))
    count = min(whole(request.GET.get("count", ""), grid.LATER), grid.LATER)
    wanted = ordered[start : start + count]
    lines = markup.rows(frame, axis, grid.lines(frame.paired_resolver, axis, frame.theme, wanted))
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
