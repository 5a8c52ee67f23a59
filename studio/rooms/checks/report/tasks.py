"""The report as a file, at once or as a long task."""

from __future__ import annotations

from django.utils import timezone

from prism import __version__
from prism.reports import files
from prism.reports.report import Report, report
from prism.reports.sarif import as_sarif
from studio.store.tasks import Result
from studio.work.kinds import Work, long_task

REPORT = "report"
#: How a report is written, by the ending of its file, with its type.
TYPES = {
    "json": "application/json",
    "csv": "text/csv; charset=utf-8",
    "sarif": "application/sarif+json",
}


def written(made: Report, form: str) -> str:
    """The report in the form of a file."""
    if form == "json":
        return files.as_json(made)
    # A project is stored as rows and has no lines; paths of tokens say what is meant.
    return files.as_csv(made) if form == "csv" else as_sarif(made, {}, __version__)


@long_task(REPORT, "Writing the report")
def write_report(work: Work) -> Result:
    """The file."""
    form, analysis = work.fields["form"], work.analysis
    work.tell(0.1, f"checking {len(analysis.document.tokens)} tokens.")
    made = report(analysis, timezone.localdate().isoformat())
    work.tell(0.9, f"writing {len(made.items)} findings.")
    name = f"report-{work.task.project.code}.{form}"
    return Result(data=written(made, form).encode(), name=name, content_type=TYPES[form])
