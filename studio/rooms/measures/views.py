"""Measures and copy: what the palette holds beside colors, reckoned live."""

from django.views.decorators.http import require_GET, require_POST

from prism.changes import values as edit
from prism.errors import PrismError
from prism.expressions import typed_input
from prism.model.document import BASE, shown_path
from prism.palette import measures
from prism.view_models import measures as readings
from studio.accounts.permissions import requires
from studio.rooms import frame as frames
from studio.rooms.measures import forms
from studio.store import projects as store


@requires("view")
@require_GET
def room(request, project):
    """Numbers: lengths, durations, weights, shadows; each with what it comes to."""
    return _measures(_enter(request, project))


@requires("view")
@require_GET
def copy(request, project):
    """Texts and yes or no, one column per mode of an axis."""
    return _copy(_enter(request, project, "measures:copy"))


def _enter(request, project, address=""):
    state = request.GET if request.method == "GET" else request.POST
    if not address:
        address = "measures:copy" if state.get("page") == "copy" else "measures:room"
    return frames.enter(
        request,
        project,
        "palette",
        address,
        kind=state.get("kind", "")[:40] if address == "measures:room" else "",
        columns=state.get("columns", "")[:200] if address == "measures:copy" else "",
    )


def _measures(frame, problem="", typed=None, status=200):
    kind = next(
        (one for one in measures.KINDS if one.id == frame.extra.get("kind")), measures.KINDS[0]
    )
    context = {
        "groups": readings.groups(frame.resolver, frame.theme),
        "kinds": measures.KINDS,
        "kind": kind,
        "types": forms.MEASURE_TYPES,
        "problem": problem,
        "typed": typed or {},
    }
    return frames.show(frame, "measures/room.html", context, status)


def _copy(frame, problem="", typed=None, status=200):
    axes, _ = frames.names_of(frame.loaded)
    axis = frames.axis_called(frame, frame.extra.get("columns", ""))
    sheet = readings.copy(frame.resolver, frame.theme, axis)
    context = {
        "sheet": sheet,
        "axis_slugs": axes,
        "types": forms.COPY_TYPES,
        "problem": problem,
        "typed": typed or {},
    }
    return frames.show(frame, "measures/copy.html", context, status)


@requires("edit")
@require_POST
def store_value(request, project):
    """Store the value of a measure or a text."""

    def change(document, frame, said):
        token = document.token(said["token"])
        if token is None:
            raise PrismError("That token is no longer there.")
        value = typed_input.read_typed(document, said["value"], token)
        axis, _, mode = said["mode"].partition(" ")
        condition = BASE
        if mode:
            theme = readings.theme_in(frame.resolver, frame.theme, axis, mode)
            condition = edit.cell_condition(frame.resolver, token.key, axis, mode, theme)
        after = edit.set_value(document, token.key, condition, value)
        return after, f"Set {shown_path(token.path)} to {typed_input.typed(value)[:60]}"

    return _write(request, project, forms.ValueForm(request.POST), change)


@requires("edit")
@require_POST
def add(request, project):
    """Add a single measure or text."""

    def change(document, frame, said):
        after = measures.add_plain(
            document, said["path"], said["type"], said["value"], store.new_key
        )
        return after, f"Added {said['path']}"

    return _write(request, project, forms.AddForm(request.POST), change)


@requires("edit")
@require_POST
def add_scale(request, project):
    """Add a scale."""

    def change(document, frame, said):
        kind = measures.kind_of(said["kind"])
        after = measures.add_scale(
            document,
            kind,
            said["group"],
            said["base"],
            said["factor"],
            said["values"],
            store.new_key,
            names=said["names"],
        )
        return after, f"Added the scale {said['group']}"

    return _write(request, project, forms.ScaleForm(request.POST), change)


def _write(request, project, form, change):
    frame = _enter(request, project)
    show = _copy if frame.address == "measures:copy" else _measures
    typed = {name: value[:4000] for name, value in request.POST.items()}
    return frames.answer(
        frame,
        form,
        lambda document, said: change(document, frame, said),
        lambda problem, status: show(frame, problem, typed, status),
    )
