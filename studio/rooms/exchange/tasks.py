"""Importing and exporting much as long tasks."""

from __future__ import annotations

import json

from prism.errors import PrismError
from prism.formats import files as formats
from studio.rooms.exchange.incoming import asks_first, import_into, review, unpacked
from studio.rooms.themes import read_theme
from studio.store.tasks import Result
from studio.work.kinds import Work, long_task

IMPORT, EXPORT = "import", "export"


@long_task(IMPORT, "Importing")
def import_much(work: Work) -> Result:
    """The project it was imported into, and what is said of it."""
    user = work.task.asked_by
    if user is None:
        raise PrismError("The account that asked for this is gone.")
    incoming = unpacked(bytes(work.task.payload), work.fields)
    work.tell(0.1, f"reading {incoming.size / 1e6:.1f} MB.")
    if not work.fields.get("sure") and asks_first(incoming, work.task.project):
        found = {"review": review(incoming, work.task.project)}
        return Result(json.dumps(found), bytes(work.task.payload))
    result = import_into(incoming, work.task.project, user)
    kept = {
        "project": result.project.code,
        "sentence": result.sentence,
        "remarks": result.remarks,
    }
    return Result(json.dumps(kept))


@long_task(EXPORT, "Exporting")
def export_much(work: Work) -> Result:
    """The file."""
    target = formats.BY_ID[work.fields["target"]]
    analysis = work.analysis
    work.tell(0.1, f"writing {len(analysis.document.tokens)} tokens.")
    theme = read_theme(analysis, work.fields["theme"])
    name, content, media_type = target.file(analysis.document, theme)
    data = content.encode() if isinstance(content, str) else content
    return Result(data=data, name=name, content_type=media_type)
