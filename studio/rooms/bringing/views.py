"""Bringing colors: any text or file with colors, and pictures."""

from django.http import Http404, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from prism.errors import PrismError
from prism.model.document import shown_path
from prism.palette import importing as bringing
from prism.palette import pictures, purposes
from prism.view_models import pictures as readings
from studio.accounts.permissions import requires
from studio.rooms import frame as frames
from studio.rooms.bringing import forms
from studio.store import pictures as kept_pictures
from studio.store import projects as store


@requires("edit")
@require_GET
def room(request, project):
    """Where colors are pasted or dropped."""
    return _room(frames.enter(request, project, "palette", "bringing:room"))


def _room(frame, problem="", text="", status=200):
    context = {"problem": problem, "text": text}
    return frames.show(frame, "bringing/room.html", context, status)


@requires("edit")
@require_POST
def look(request, project):
    """Show the colors of a text or a file, with what clashes, before anything is stored."""
    frame = frames.enter(request, project, "palette", "bringing:room")
    form = forms.TextForm(request.POST, request.FILES)
    text = request.POST.get("text", "")[: forms.MAX_TEXT]
    if not form.is_valid():
        return _room(frame, frames.problems(form), text, 400)
    file = form.cleaned_data["file"]
    try:
        if file:
            found = bringing.from_file(frame.document, file.read(), file.name, store.new_key)
        else:
            found = bringing.from_text(frame.document, form.cleaned_data["text"])
    except PrismError as error:
        return _room(frame, str(error), text, 422)
    return _looked(frame, found)


def _looked(frame, found, problem="", data=None, status=200):
    context = {
        "rows": [
            {
                "candidate": one,
                "number": number,
                "path": data.get(f"path-{number}", one.path) if data else one.path,
                "taken": bool(data.get(f"take-{number}")) if data else one.clash != "same",
                "action": data.get(f"action-{number}", "add") if data else "add",
            }
            for number, one in enumerate(found)
        ],
        "clashes": sum(one.clash in ("other", "twice") for one in found),
        "same": sum(one.clash == "same" for one in found),
        "purposes": purposes.of(frame.document),
        "problem": problem,
        "data": data or {},
    }
    return frames.show(frame, "bringing/look.html", context, status)


@requires("edit")
@require_POST
def store_colors(request, project):
    """Store the colors that were looked at."""
    frame = frames.enter(request, project, "palette", "palette:room")
    form = forms.PlaceForm(request.POST)

    def change(document, said):
        choices = form.choices()
        if not choices:
            raise PrismError("No color is ticked.", fix="Tick those that are to come.")
        after = bringing.place(
            document,
            choices,
            store.new_key,
            group=said["group"].strip(),
            purpose=said["purpose"],
        )
        return after, f"Brought {len(choices)} color{'' if len(choices) == 1 else 's'}"

    def refuse(problem, status):
        if not form.is_valid():
            return _room(frame, problem, status=status)
        found = bringing.again(frame.document, _sent(request.POST, form.cleaned_data["count"]))
        return _looked(frame, found, problem, request.POST, status)

    return frames.answer(frame, form, change, refuse)


def _sent(data, count):
    """Paths and texts of a form that was sent, in order."""
    return [
        (data.get(f"path-{number}", "")[:300], data.get(f"text-{number}", "")[:400])
        for number in range(count)
    ]


@requires("edit")
@require_GET
def picture(request, project):
    """A picture with its colors on it, or where one is chosen."""
    frame = frames.enter(
        request,
        project,
        "palette",
        "bringing:picture",
        picture=request.GET.get("picture", "")[:40],
    )
    return _picture(frame)


def _picture(frame, problem="", data=None, status=200):
    found = kept_pictures.find(frame.project, frame.extra.get("picture", ""))
    context = {
        "picture": found,
        "rows": [
            row
            | {
                "kind": data.get(f"kind-{row['number']}", "") if data else "",
                "target": data.get(f"target-{row['number']}", "") if data else "",
            }
            for row in (readings.marks(found.colors, found.width, found.height) if found else ())
        ],
        "scale": f"{max(found.width, found.height) / 420:.2f}" if found else "1",
        "tokens": [
            shown_path(token.path)
            for token in frame.document.tokens
            if token.type == "color" and token.tier != "raw"
        ],
        "kept": kept_pictures.kept(frame.project),
        "problem": problem,
    }
    return frames.show(frame, "bringing/picture.html", context, status)


@requires("edit")
@require_POST
def read_picture(request, project):
    """Read the colors of a picture and keep a small copy of it."""
    frame = frames.enter(request, project, "palette", "bringing:picture")
    form = forms.PictureForm(request.POST, request.FILES)
    if not form.is_valid():
        return _picture(frame, frames.problems(form), status=400)
    file = form.cleaned_data["file"]
    try:
        read = pictures.read(file.read(), file.name, form.cleaned_data["count"])
    except PrismError as error:
        return _picture(frame, str(error), status=422)
    frame.extra["picture"] = kept_pictures.keep(project, request.user, file.name, read)
    return redirect(reverse("bringing:picture", args=[project.code]) + frame.query())


@requires("edit")
@require_GET
def image(request, project, picture):
    """The small copy of a picture."""
    found = kept_pictures.find(project, picture)
    if found is None:
        raise Http404
    response = HttpResponse(bytes(found.data), content_type=found.content_type)
    response["Cache-Control"] = "private, max-age=86400"
    return response


@requires("edit")
@require_POST
def assign(request, project):
    """Give the colors of a picture their places."""
    form = forms.AssignForm(request.POST)
    frame = frames.enter(
        request,
        project,
        "palette",
        "bringing:picture",
        picture=request.POST.get("picture", "")[:40],
    )
    found = kept_pictures.find(project, frame.extra.get("picture", ""))

    def change(document, said):
        if found is None:
            raise PrismError("That picture is no longer kept.", fix="Bring it again.")
        uses = form.uses(found.colors)
        if not uses:
            raise PrismError("Every color is left out.", fix="Say where at least one goes.")
        after = bringing.use(document, uses, frame.theme, store.new_key)
        return after, f"Took {len(uses)} color{'' if len(uses) == 1 else 's'} of {found.name}"

    return frames.answer(
        frame,
        form,
        change,
        lambda problem, status: _picture(frame, problem, request.POST, status),
        lambda _: frame.plain_url("palette:room"),
    )
