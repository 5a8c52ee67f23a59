"""The Tokens room: the sheet, and one cell of it opened."""

from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_POST

from prism.compare.rows import condition_from, condition_text
from prism.errors import PrismError
from prism.readings import sheet
from prism.tokens import edit, entry
from prism.tokens.model import BASE, Condition, shown_path
from prism.tokens.names import condition_words
from studio.accounts.permissions import requires
from studio.rooms import frame as frames
from studio.rooms.tokens.forms import CellForm
from studio.store import projects as store


@requires("view")
@require_GET
def room(request, project):
    """The sheet, with the cell that the address names open below it."""
    return _room(_enter(request, project))


def _enter(request, project):
    state = request.GET if request.method == "GET" else request.POST
    return frames.enter(
        request,
        project,
        "tokens",
        columns=state.get("columns", "")[:200],
        find=state.get("find", "")[:100],
        cell=state.get("cell", "")[:500],
    )


def _room(frame, typed=None, problem=None, status=200):
    axes, modes = frames.names_of(frame.loaded)
    axis = next(
        (one for one in frame.document.axes if axes[one.key] == frame.extra.get("columns")),
        frame.document.axes[0] if frame.document.axes else None,
    )
    find = frame.extra.get("find", "").lower()
    tokens = [token for token in frame.document.tokens if find in shown_path(token.path).lower()]
    sections = sheet.sections(frame.resolver, axis, frame.theme, tokens)
    failing = sum(
        cell.worst is not None and cell.worst.fails
        for section in sections
        for line in section.lines
        for cell in line.cells
    )
    context = {
        "axis": axis,
        "heads": sheet.columns(frame.resolver, axis, frame.theme),
        "sections": sections,
        "count": len(tokens),
        "failing": failing,
        "find": frame.extra.get("find", ""),
        "mode_slugs": {mode.key: modes[axis.key, mode.key] for mode in axis.modes} if axis else {},
        "axis_slugs": axes,
        "editor": _editor(frame, axis, typed, problem),
    }
    return frames.show(frame, "tokens/room.html", context, status)


def _editor(frame, axis, typed, problem):
    """What the opened cell shows, or None."""
    key, _, slug = frame.extra.get("cell", "").partition(":")
    token = frame.document.token(key)
    if token is None:
        return None
    _, modes = frames.names_of(frame.loaded)
    mode, theme = next(
        (
            (mode, theme)
            for mode, theme in sheet.columns(frame.resolver, axis, frame.theme)
            if mode is not None and modes[axis.key, mode.key] == slug
        ),
        (None, frame.theme),
    )
    cell = sheet.cell(frame.resolver, token, axis, mode, theme)
    target = edit.cell_condition(frame.resolver, key, axis.key, mode.key, theme) if mode else BASE
    stored = token.value(target)
    return {
        "cell": cell,
        "token": token,
        "mode": mode,
        "axis": axis,
        "typed": entry.typed(cell.value) if typed is None else typed,
        "problem": problem,
        "conditions": _conditions(frame, token, target, axis, mode),
        "clearable": stored is not None and (target != BASE or len(token.values) > 1),
        "hops": [
            {
                "hop": hop,
                "token": frame.document.token(hop.token),
                "words": condition_words(frame.document, hop.condition),
            }
            for hop in frame.resolver.trace(key, theme)
        ],
        "influence": [frame.document.axis(one).name for one in frame.resolver.influence(key)],
        "cell_id": f"{key}:{slug}",
        "slug": slug,
    }


def _conditions(frame, token, target, axis, mode):
    """Where a value may go: what the cell proposes, what is there, base and this mode."""
    offered = [target, *(held for held, _ in token.values), BASE]
    if axis is not None and mode is not None:
        offered.append(Condition(((axis.key, mode.key),)))
    return [
        {
            "text": condition_text(one),
            "words": condition_words(frame.document, one),
            "stored": token.value(one) is not None,
        }
        for one in dict.fromkeys(offered)
    ]


@requires("edit")
@require_POST
def store_cell(request, project):
    """Store or clear the value of a cell."""
    frame = _enter(request, project)
    form = CellForm(request.POST)
    if not form.is_valid():
        return _room(
            frame, problem="The form came back incomplete. Nothing was stored.", status=400
        )
    said = form.cleaned_data
    try:
        frames.write(frame, said["revision"], lambda document: _change(document, said))
    except PrismError as error:
        return _room(frame, typed=said["value"], problem=str(error), status=422)
    return redirect(frame.here)


def _change(document, said):
    token = document.token(said["token"])
    if token is None:
        raise PrismError("That token is no longer there.")
    condition = condition_from(said["condition"])
    path = shown_path(token.path)
    if said["clear"]:
        after = edit.clear_value(document, token.key, condition)
        label = f"Cleared {path}"
    else:
        value = entry.read_typed(document, said["value"], token)
        after = edit.set_value(document, token.key, condition, value)
        label = f"Set {path} to {entry.typed(value)[:60]}"
    return after, f"{label} for {condition_words(document, condition)}"


@requires("view")
@require_GET
def complete(request, project):
    """Tokens that fit what is being typed, as a list of options."""
    loaded = store.load(project)
    token = loaded.document.token(request.GET.get("token", ""))
    theme = frames.read_theme(loaded, request.GET.get("theme", ""))
    options = (
        entry.complete(loaded.document, request.GET.get("q", "")[:200], token) if token else []
    )
    context = {
        "options": [
            {"option": option, "answer": loaded.resolver.resolve(option.token.key, theme)}
            for option in options
        ]
    }
    return render(request, "tokens/options.html", context)
