"""How far a long task is, stopping it, and the file that came of it."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.http import require_GET, require_POST

from studio.accounts.permissions import may, person, requires
from studio.rooms import page
from studio.store import tasks
from studio.store.models import LongTask
from studio.store.projects import Project
from studio.work import kinds
from studio.work.tasks import look_after


def _task(project: Project, code: str) -> LongTask:
    task = tasks.find(project, code)
    if task is None:
        raise Http404
    return task


def shown(task: LongTask) -> dict[str, Any]:
    """A task as its panel shows it."""
    return {
        "code": task.code,
        "title": kinds.title_of(task),
        "state": task.state,
        "over": task.is_over,
        "share": round(task.share, 3),
        "words": "waiting for a free worker." if task.state == "waiting" else task.words,
    }


@requires("view")
@require_GET
def state(request: HttpRequest, project: Project, task: str) -> HttpResponse:
    """How far a task is, as JSON."""
    asked = _task(project, task)
    look_after(asked)
    asked.refresh_from_db(fields=["state", "share", "words"])
    response = JsonResponse(shown(asked))
    response["Cache-Control"] = "no-store"
    return response


@requires("view")
@require_POST
def stop(request: HttpRequest, project: Project, task: str) -> HttpResponse:
    """Ask a task to stop; the person who asked for it may, and everybody who may edit."""
    asked = _task(project, task)
    if asked.asked_by_id != person(request).pk:
        may(project, "edit")
    tasks.stop(asked)
    return page.back_to(request, project)


@requires("view")
@require_GET
def file(request: HttpRequest, project: Project, task: str) -> HttpResponse:
    """The file that came of a task."""
    done = _task(project, task)
    if not done.data or not done.name:
        raise Http404
    response = HttpResponse(bytes(done.data), content_type=done.content_type)
    response["Content-Disposition"] = f'attachment; filename="{done.name}"'
    return response
