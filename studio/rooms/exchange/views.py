"""The Exchange room: files of any open format in and out."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any

from django.contrib import messages
from django.core.exceptions import PermissionDenied
from django.core.files.uploadedfile import UploadedFile
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from prism import checks
from prism.errors import PrismError
from prism.formats import files as formats
from prism.formats.duplicates import DuplicateError
from studio.accounts.permissions import may, requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.exchange.address import ExchangeAddress
from studio.rooms.exchange.forms import ImportForm
from studio.rooms.exchange.incoming import (
    WHILE_WAITING,
    ImportResult,
    Incoming,
    asks_first,
    import_into,
    review,
    unpacked,
)
from studio.rooms.exchange.tasks import EXPORT, IMPORT
from studio.rooms.frame import Frame
from studio.rooms.themes import read_theme
from studio.solving import begin
from studio.store import projects as store
from studio.store import tasks
from studio.store.projects import Project
from studio.store.tasks import LongTask, State
from studio.work.views import shown

ExchangeFrame = Frame[ExchangeAddress]
#: Checks of what is stored, which are told here after an import.
_STORED = ("elevation", *checks.ids("hygiene"))
#: Tokens that are exported while somebody waits; more are a long task.
MOST_TOKENS = 2500


def _enter(request: HttpRequest, project: Project) -> ExchangeFrame:
    return Frame.enter(request, project, "exchange", ExchangeAddress.read(state_of(request)))


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """Import files, export files, and what the document says of itself."""
    return _room(_enter(request, project))


def _room(
    frame: ExchangeFrame,
    form: ImportForm | None = None,
    problem: str = "",
    status: int = 200,
    *,
    asks_duplicates: bool = False,
) -> HttpResponse:
    task = tasks.find(frame.project, frame.address.task) if frame.address.task else None
    failed = (
        task is not None and task.kind == IMPORT and task.state in (State.FAILED, State.STOPPED)
    )
    outcome = _outcome(task) if task is not None and task.state == State.DONE else None
    if task is not None and outcome and "review" in outcome and frame.address.cancelled:
        held = unpacked(bytes(task.data), tasks.fields_of(task))
        form = form or ImportForm(initial={"text": held.text})  # what was pasted is there again
        outcome = None
    context = {
        "asks_duplicates": asks_duplicates or failed,
        "form": form or ImportForm(),
        "problem": task.words if task is not None and failed and not problem else problem,
        "findings": [
            (finding, frame.document.token(finding.token))
            for finding in frame.analysis.once(checks.findings)
            if finding.check in _STORED and finding.is_open()
        ],
        "themes": frame.resolver.theme_count,
        "targets": formats.TARGETS,
        "is_large": _is_large(frame),
        "task": shown(task) if task is not None else None,
        "outcome": outcome,
    }
    return page.show(frame, "exchange/room.html", context, status)


def _is_large(frame: ExchangeFrame) -> bool:
    """Whether there are too many tokens to export while somebody waits."""
    return len(frame.document.tokens) > MOST_TOKENS


def _outcome(task: LongTask) -> dict[str, Any]:
    """What came of a task: a file, or a project."""
    if task.kind == EXPORT:
        return {"file": task.name, "code": task.code}
    kept: dict[str, Any] = json.loads(task.text)
    return kept


@requires("view")
@require_POST
def import_files(request: HttpRequest, project: Project) -> HttpResponse:
    """Read files into a new project, or in place of this one's tokens."""
    frame = _enter(request, project)
    form = ImportForm(request.POST, request.FILES)
    if not form.is_valid():
        return _room(frame, form, writing.problems(form), 400)
    try:
        if form.cleaned_data["into"] == "here":
            may(project, "edit")
        values = form.cleaned_data
        incoming = Incoming(_files(values["files"]), values["text"], values)
        if incoming.size > WHILE_WAITING:
            return _later(frame, incoming)
        if asks_first(incoming, project):
            return _asking(frame, incoming)
        result = import_into(incoming, project, frame.person)
    except PermissionDenied as error:
        return _room(frame, form, str(error), 403)
    except DuplicateError as error:
        return _room(frame, form, str(error), 422, asks_duplicates=True)
    except PrismError as error:
        return _room(frame, form, str(error), 422)
    return _imported(request, project, result)


def _imported(request: HttpRequest, project: Project, result: ImportResult) -> HttpResponse:
    """Say what was imported, in the project it was imported into."""
    messages.success(
        request, result.sentence, extra_tags="undo" if result.project == project else ""
    )
    for remark in result.remarks:
        messages.warning(request, remark)
    return redirect(reverse("exchange:room", args=[result.project.code]))


def _asking(frame: ExchangeFrame, incoming: Incoming) -> HttpResponse:
    """Keep what is to be imported, and show what it would replace."""
    found = review(incoming, frame.project)
    kept = tasks.Result(json.dumps({"review": found}), incoming.packed())
    task = tasks.keep(
        frame.project, IMPORT, frame.loaded.revision, incoming.fields, frame.person, kept
    )
    return redirect(frame.plain_url("exchange:room", task=task.code))


@requires("edit")
@require_POST
def take_import(request: HttpRequest, project: Project) -> HttpResponse:
    """Import what was kept while somebody looked at what it replaces."""
    frame = _enter(request, project)
    task = tasks.find(project, request.POST.get("task", ""))
    if task is None or task.kind != IMPORT or not task.data:
        return _room(frame, problem="This file is no longer kept. Choose it again.", status=410)
    incoming = unpacked(bytes(task.data), tasks.fields_of(task))
    if incoming.size > WHILE_WAITING:
        return _later(frame, incoming, sure=True)
    try:
        result = import_into(incoming, project, frame.person)
    except PrismError as error:
        return _room(frame, problem=str(error), status=422)
    return _imported(request, project, result)


def _later(frame: ExchangeFrame, incoming: Incoming, *, sure: bool = False) -> HttpResponse:
    fields = incoming.fields | ({"sure": True} if sure else {})
    to = frame.told_by("exchange:room")
    return begin(frame, IMPORT, fields, _refusal(frame), to, incoming.packed())


def _files(uploads: Sequence[UploadedFile[Any]]) -> dict[str, bytes]:
    """Names and bytes of what was uploaded."""
    files: dict[str, bytes] = {}
    for upload in uploads:
        name = upload.name or ""
        if name in files:
            raise PrismError("Two files have this name.", place=name)
        files[name] = upload.read()
    return files


@requires("view")
@require_http_methods(["GET", "POST"])
def export(request: HttpRequest, project: Project, target: str) -> HttpResponse:
    """The document as files of a format, at once, or as a long task where that is asked for by POST; a format
    that holds one theme, in that of the address."""
    written = formats.BY_ID.get(target)
    if written is None:
        raise Http404
    if request.method == "POST":
        return _export_later(_enter(request, project), target)
    analysis = store.load(project).analysis
    theme = read_theme(analysis, request.GET.get("theme", ""))
    name, content, media_type = written.file(analysis.document, theme)
    response = HttpResponse(content, content_type=media_type)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


def _export_later(frame: ExchangeFrame, target: str) -> HttpResponse:
    fields = {"target": target, "theme": frame.address.theme}
    return begin(frame, EXPORT, fields, _refusal(frame), frame.told_by("exchange:room"))


def _refusal(frame: ExchangeFrame) -> writing.Refuse:
    return lambda problem, status: _room(frame, problem=problem, status=status)
