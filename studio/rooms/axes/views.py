"""Axes and their modes; a mode proposed from another, reviewed row by row."""

from django.views.decorators.http import require_GET, require_POST

from prism.derive import modes
from prism.errors import EditError
from prism.formats.css import FEATURES
from prism.model.document import Mode
from prism.view_models import axes as readings
from studio.accounts.permissions import requires
from studio.rooms import frame as frames
from studio.rooms.axes import forms
from studio.rooms.axes.acts import act
from studio.store import projects as store


@requires("view")
@require_GET
def room(request, project):
    """The axes in order, each with its modes."""
    return _room(frames.enter(request, project, "tokens", "axes:room"))


def _room(frame, problem="", status=200):
    context = {
        "rows": readings.rows(frame.document),
        "features": [
            (f"{name}: {value}", f"{name.removeprefix('prefers-').replace('-', ' ')}: {value}")
            for name, found in FEATURES.items()
            for value in found
        ],
        "problem": problem,
    }
    return frames.show(frame, "axes/room.html", context, status)


@requires("edit")
@require_POST
def run_act(request, project):
    """Do one thing to an axis or a mode."""
    frame = frames.enter(request, project, "tokens", "axes:room")
    form = forms.ActForm(request.POST)
    return frames.answer(frame, form, act, lambda *said: _room(frame, *said))


@requires("view")
@require_GET
def propose(request, project):
    """A mode proposed from another: what each token would hold, and why."""
    frame = frames.enter(request, project, "tokens", "axes:room")
    form = forms.ProposalForm(request.GET)
    if not form.is_valid():
        return _room(frame, "Name the new mode, and the one it is made from.", 400)
    return _proposal(frame, form.cleaned_data)


def _proposal(frame, said, problem="", accepted=None, status=200):
    owner = frame.document.axis(said["axis"])
    if owner is None or all(mode.key != said["source"] for mode in owner.modes):
        return _room(frame, "That mode is no longer there.", 422)
    proposal = readings.proposal(frame.resolver, frame.theme, said["axis"], said["source"])
    context = {
        "axis": owner,
        "source": owner.mode(said["source"]),
        "name": said["name"],
        "scheme": said["scheme"],
        "rows": [
            {
                "row": row,
                "now": now,
                "then": then,
                "taken": accepted is None or row.token.key in accepted,
            }
            for row, now, then in proposal.rows
        ],
        "proposal": proposal,
        "problem": problem,
    }
    return frames.show(frame, "axes/propose.html", context, status)


@requires("edit")
@require_POST
def take(request, project):
    """Store a mode as it was proposed, with the rows that were accepted."""
    frame = frames.enter(request, project, "tokens", "axes:room")
    form = forms.TakeForm(request.POST)
    accepted = form.accepted()

    def change(document, said):
        mode = Mode(store.new_key(), said["name"].strip(), color_scheme=said["scheme"])
        if not mode.name:
            raise EditError("A mode needs a name.")
        after = modes.take(document, said["axis"], mode, said["source"], accepted)
        return after, f"Made the mode {mode.name} of another, {len(accepted)} values proposed"

    def refuse(problem, status):
        if not form.is_valid():
            return _room(frame, problem, status)
        return _proposal(frame, form.cleaned_data, problem, accepted, status)

    return frames.answer(frame, form, change, refuse)
