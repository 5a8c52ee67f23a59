"""The report: everything the checks say on one page that prints, and as files."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.http import require_GET

from prism import __version__
from prism.checks import SECTIONS
from prism.reports import files
from prism.reports.report import Report
from prism.reports.sarif import as_sarif
from studio.accounts.permissions import requires
from studio.rooms import frame as frames
from studio.rooms import page
from studio.store.projects import Project

#: How a report is written, by the ending of its file, with its type.
_TYPES = {
    "json": "application/json",
    "csv": "text/csv; charset=utf-8",
    "sarif": "application/sarif+json",
}


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """Over what each check looked, what it found, and what was accepted and why."""
    frame = frames.enter(request, project, "checks", "report:room")
    made = frame.report
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
        "forms": list(_TYPES),
    }
    return page.show(frame, "report/room.html", context)


@requires("view")
@require_GET
def file(request: HttpRequest, project: Project, form: str) -> HttpResponse:
    """The report as a file."""
    if form not in _TYPES:
        raise Http404
    frame = frames.enter(request, project, "checks", "report:room")
    response = HttpResponse(_written(frame.report, form), content_type=_TYPES[form])
    response["Content-Disposition"] = f'attachment; filename="report-{project.code}.{form}"'
    return response


def _written(made: Report, form: str) -> str:
    if form == "json":
        return files.as_json(made)
    # A project is stored as rows and has no lines; paths of tokens say what is meant.
    return files.as_csv(made) if form == "csv" else as_sarif(made, {}, __version__)
