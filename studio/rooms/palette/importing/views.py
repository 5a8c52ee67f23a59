"""Importing colors: any text or file with colors, and pictures."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping, Sequence
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from prism.color import space
from prism.errors import PrismError
from prism.model.document import shown_path
from prism.palette import imports, picture_review, picture_roles, pictures, purposes
from prism.palette.import_commands import UsePictureColors
from prism.palette.picture_view import marks
from prism.sheet.consequences import consequences
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import Address, state_of
from studio.rooms.frame import Frame, enter
from studio.rooms.palette.importing import forms
from studio.rooms.palette.importing.address import PictureAddress
from studio.store import pictures as stored_pictures
from studio.store import projects as store
from studio.store.projects import Project

PictureFrame = Frame[PictureAddress]


def _enter(request: HttpRequest, project: Project) -> Frame[Address]:
    return enter(request, project, "palette", "importing:room")


@requires("edit")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """Where colors are pasted or dropped."""
    return _room(_enter(request, project))


def _room(
    frame: Frame[Address], problem: str = "", text: str = "", status: int = 200
) -> HttpResponse:
    return page.show(frame, "importing/room.html", {"problem": problem, "text": text}, status)


@requires("edit")
@require_POST
def preview(request: HttpRequest, project: Project) -> HttpResponse:
    """Show the colors of a text or a file, with what clashes, before anything is stored."""
    frame = _enter(request, project)
    form = forms.TextForm(request.POST, request.FILES)
    text = request.POST.get("text", "")
    if not form.is_valid():
        return _room(frame, writing.problems(form), text, 400)
    file = form.cleaned_data["file"]
    try:
        if file:
            candidates = imports.from_file(frame.document, file.read(), file.name, store.new_key)
        else:
            candidates = imports.from_text(frame.document, form.cleaned_data["text"])
    except PrismError as error:
        return _room(frame, str(error), text, 422)
    return _preview(frame, candidates)


def _preview(
    frame: Frame[Address],
    candidates: Sequence[imports.Candidate],
    problem: str = "",
    data: Mapping[str, str] | None = None,
    status: int = 200,
) -> HttpResponse:
    def row(number: int, candidate: imports.Candidate) -> dict[str, Any]:
        shown = {"candidate": candidate, "number": number}
        if data is None:
            untouched = {"path": candidate.path, "action": "add"}
            return shown | untouched | {"taken": candidate.clash not in ("same", "repeated")}
        return shown | {
            "path": data.get(f"path-{number}", candidate.path),
            "taken": bool(data.get(f"take-{number}")),
            "action": data.get(f"action-{number}", "add"),
        }

    context = {
        "rows": [row(number, candidate) for number, candidate in enumerate(candidates)],
        "clashes": sum(candidate.clash == "other" for candidate in candidates),
        "same": sum(candidate.clash == "same" for candidate in candidates),
        "repeated": sum(candidate.clash == "repeated" for candidate in candidates),
        "purposes": purposes.of(frame.document),
        "problem": problem,
        "data": data or {},
    }
    return page.show(frame, "importing/preview.html", context, status)


@requires("edit")
@require_POST
def store_colors(request: HttpRequest, project: Project) -> HttpResponse:
    """Store the colors that were previewed."""
    frame = enter(request, project, "palette")
    form = forms.PlaceForm(request.POST)

    def refuse(problem: str, status: int) -> HttpResponse:
        if not form.is_valid():
            return _room(frame, problem, status=status)
        candidates = imports.again(frame.document, form.sent)
        return _preview(frame, candidates, problem, request.POST, status)

    return writing.run(frame, form, refuse)


def _enter_picture(request: HttpRequest, project: Project) -> PictureFrame:
    address = PictureAddress.read(state_of(request))
    return Frame.enter(request, project, "palette", address, "importing:picture")


@requires("edit")
@require_GET
def picture(request: HttpRequest, project: Project) -> HttpResponse:
    """A picture with its colors on it, or where a picture is chosen."""
    return _picture(_enter_picture(request, project))


def _picture(
    frame: PictureFrame,
    problem: str = "",
    data: Mapping[str, str] | None = None,
    status: int = 200,
    review: dict[str, Any] | None = None,
) -> HttpResponse:
    stored_picture = stored_pictures.find(frame.project, frame.address.picture)
    given = data or {}
    context = {
        "picture": stored_picture,
        "rows": [
            row
            | {
                "kind": given.get(f"kind-{row['number']}", ""),
                "target": given.get(f"target-{row['number']}", ""),
            }
            for row in (
                marks(stored_picture.colors, stored_picture.width, stored_picture.height)
                if stored_picture
                else ()
            )
        ],
        "scale": f"{max(stored_picture.width, stored_picture.height) / 420:.2f}"
        if stored_picture
        else "1",
        "tokens": [
            shown_path(token.path)
            for token in frame.document.tokens
            if token.type == "color" and token.tier != "raw"
        ],
        "roles": _roles(frame, stored_picture, given),
        "axes": [(axis, given.get(f"at-{axis.key}", "")) for axis in frame.document.axes],
        "review": review,
        "by_color": bool(given) and "by-role" not in given,
        "stored": stored_pictures.kept(frame.project),
        "problem": problem,
    }
    return page.show(frame, "importing/picture.html", context, status)


def _roles(
    frame: PictureFrame, stored_picture: stored_pictures.Picture | None, given: Mapping[str, str]
) -> list[dict[str, Any]]:
    """The roles that colors of a picture can play, with what is chosen: what was sent, or a proposal."""
    if stored_picture is None:
        return []
    seen = [
        picture_roles.Seen(space.parse(cluster["hex"]), cluster["share"])
        for cluster in stored_picture.colors
    ]
    proposed = picture_roles.proposed(seen)
    analysis = frame.analysis
    rows = []
    for role, words in picture_roles.ROLES:
        chosen = str(proposed[role]) if role in proposed else ""
        kind, target = picture_roles.becomes(analysis.document, analysis.roles, role)
        rows.append(
            {
                "role": role,
                "words": words,
                "chosen": given.get(f"role-{role}", "") if "by-role" in given else chosen,
                "becomes": f"the value of {target}" if kind == "token" else f"{kind} {target}",
            }
        )
    return rows


@requires("edit")
@require_POST
def read_picture(request: HttpRequest, project: Project) -> HttpResponse:
    """Read the colors of a picture and store a small copy of it."""
    frame = _enter_picture(request, project)
    form = forms.PictureForm(request.POST, request.FILES)
    if not form.is_valid():
        return _picture(frame, writing.problems(form), status=400)
    file = form.cleaned_data["file"]
    try:
        read = pictures.read(file.read(), file.name, form.cleaned_data["count"])
    except PrismError as error:
        return _picture(frame, str(error), status=422)
    code = stored_pictures.keep(project, frame.person, file.name, read)
    return redirect(reverse("importing:picture", args=[project.code]) + frame.query(picture=code))


@requires("edit")
@require_GET
def image(request: HttpRequest, project: Project, picture: str) -> HttpResponse:
    """The small copy of a picture."""
    stored_picture = stored_pictures.find(project, picture)
    if stored_picture is None:
        raise Http404
    response = HttpResponse(bytes(stored_picture.data), content_type=stored_picture.content_type)
    response["Cache-Control"] = "private, max-age=86400"
    return response


@requires("edit")
@require_POST
def assign(request: HttpRequest, project: Project) -> HttpResponse:
    """Show what the colors of a picture would write, and store it once that was seen."""
    frame = _enter_picture(request, project)
    stored_picture = stored_pictures.find(project, frame.address.picture)
    form = forms.AssignForm(request.POST, stored_picture, frame)
    if "store" not in request.POST or not _was_reviewed(form, request.POST.get("reviewed", "")):
        return _reviewed(frame, form)
    return writing.run(
        frame,
        form,
        lambda problem, status: _picture(frame, problem, request.POST, status),
        lambda _: frame.plain_url("palette:room"),
    )


def _reviewed(frame: PictureFrame, form: forms.AssignForm) -> HttpResponse:
    """What would be written, in which modes, and what that breaks and fixes."""
    data = frame.request.POST
    if not form.is_valid():
        return _picture(frame, writing.problems(form), data, 400)
    try:
        command = form.command()
        after = command.apply(frame.document)
    except PrismError as error:
        return _picture(frame, str(error), data, 422)
    review = {
        "rows": picture_review.written(frame.analysis, after, command.uses),
        "found": consequences(frame.analysis, after),
        "by_role": "by-role" in data,
        "digest": _digest(command),
    }
    return _picture(frame, data=data, review=review)


def _digest(command: UsePictureColors) -> str:
    """What stands for what was reviewed."""
    return hashlib.sha256(repr((command.uses, command.picks)).encode()).hexdigest()[:16]


def _was_reviewed(form: forms.AssignForm, digest: str) -> bool:
    """Whether what is to be stored is what was shown; what is wrong is shown as well."""
    try:
        return form.is_valid() and _digest(form.command()) == digest
    except PrismError:
        return False
