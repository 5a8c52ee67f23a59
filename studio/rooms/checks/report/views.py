"""The report: everything the checks say on one page that prints, and as files."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.http import require_GET, require_http_methods

from prism.checks import SECTIONS
from studio.accounts.permissions import requires
from studio.rooms import page
from studio.rooms.address import state_of
from studio.rooms.checks.report.address import ReportAddress
from studio.rooms.checks.report.tasks import REPORT, TYPES, written
from studio.rooms.frame import Frame
from studio.solving import begin
from studio.store import tasks
from studio.store.projects import Project
from studio.store.tasks import State
from studio.work.views import shown

ReportFrame = Frame[ReportAddress]
#: More tokens than these are not reported as a file while somebody waits.
MOST_TOKENS = 2500


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """Over what each check looked, what it found, and what was accepted and why."""
    return _room(_enter(request, project))


def _enter(request: HttpRequest, project: Project) -> ReportFrame:
    address = ReportAddress.read(state_of(request))
    return Frame.enter(request, project, "checks", address, "report:room")


def _room(frame: ReportFrame, problem: str = "", status: int = 200) -> HttpResponse:
    made = frame.report
    task = tasks.find(frame.project, frame.address.task) if frame.address.task else None
    if task is not None and task.kind != REPORT:
        task = None
    failed = task is not None and task.state in (State.FAILED, State.STOPPED)
    context: dict[str, Any] = {
        "made": made,
        "revision": frame.loaded.revision,
        "sections": [
            {
                "title": section.capitalize(),
                "glances": [glance for glance in made.glances if glance.section == section],
                "items": [item for item in made.open if item.section == section],
            }
            for section in SECTIONS
        ],
        "forms": list(TYPES),
        "is_large": len(frame.document.tokens) > MOST_TOKENS,
        "task": shown(task) if task is not None else None,
        "ready": task if task is not None and task.state == State.DONE else None,
        "problem": problem or (task.words if task is not None and failed else ""),
    }
    return page.show(frame, "report/room.html", context, status)


@requires("view")
@require_http_methods(["GET", "POST"])
def file(request: HttpRequest, project: Project, form: str) -> HttpResponse:
    """The report as a file: at once, or as a long task where that is asked for by POST."""
    if form not in TYPES:
        raise Http404
    frame = _enter(request, project)
    if request.method == "POST":
        return _later(frame, form)
    response = HttpResponse(written(frame.report, form), content_type=TYPES[form])
    response["Content-Disposition"] = f'attachment; filename="report-{project.code}.{form}"'
    return response


def _later(frame: ReportFrame, form: str) -> HttpResponse:
    def refuse(problem: str, status: int) -> HttpResponse:
        return _room(frame, problem, status)

    return begin(frame, REPORT, {"form": form}, refuse, frame.told_by("report:room"))
