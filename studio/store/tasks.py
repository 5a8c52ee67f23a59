"""Long tasks: asked for once, counted, told how far they are, and kept for a while."""

from __future__ import annotations

import hashlib
import json
import secrets
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from prism.errors import PrismError
from studio.store.models import LongTask as LongTask
from studio.store.models import Project

State = LongTask.State
#: Tasks of a project that wait or run at the same time; one of them runs.
MOST = 3
#: A task is begun at most so many times: what ends its worker each time is not tried for ever.
MOST_STARTS = 3
#: How long a result is kept.
KEPT = timedelta(days=2)
#: How long nobody says that a task is being done until its worker counts as gone.
GONE = timedelta(seconds=20)
#: Bytes of files that a task may be given, and that may come of it.
MOST_BYTES = 64_000_000


@dataclass(frozen=True, slots=True)
class Result:
    """What came of a task: a text that its page reads, or a file with its name and type."""

    text: str = ""
    data: bytes = b""
    name: str = ""
    content_type: str = ""


def asked_for(
    project: Project, kind: str, revision: int, fields: Mapping[str, Any], payload: bytes = b""
) -> str:
    """What stands for a question: the same for the same question about the same revision of a line."""
    line = [project.line.pk] if project.line else []
    text = json.dumps([kind, revision, fields, *line], sort_keys=True, ensure_ascii=False)
    return hashlib.sha256(text.encode() + payload).hexdigest()


def known(project: Project, kind: str, revision: int, fields: Mapping[str, Any]) -> LongTask | None:
    """The newest task that asks the same, or None."""
    asked = asked_for(project, kind, revision, fields)
    return project.tasks.filter(asked=asked).defer("data", "payload").last()


@transaction.atomic
def ask(
    project: Project,
    kind: str,
    revision: int,
    fields: Mapping[str, Any],
    user: User,
    payload: bytes = b"",
) -> tuple[LongTask, bool]:
    """The task that asks this, and whether it is new; one that is not over or is done is not asked again.

    Raises ``PrismError`` where the project has too many unfinished ones.
    """
    if len(payload) > MOST_BYTES:
        raise PrismError(
            f"The files have {len(payload) / 1e6:.0f} MB; at most {MOST_BYTES / 1e6:.0f} MB are read."
        )
    Project.objects.select_for_update().get(pk=project.pk)
    asked = asked_for(project, kind, revision, fields, payload)
    task = project.tasks.filter(asked=asked).defer("data", "payload").last()
    if task is not None and (not task.is_over or task.state == State.DONE):
        return task, False
    count = project.tasks.unfinished().count()
    if count >= MOST:
        raise PrismError(
            f"{count} long tasks of this project are not finished.",
            fix="Wait for one, or stop it.",
        )
    task = LongTask.objects.create(
        project=project,
        line=project.line,
        code=secrets.token_hex(10),
        kind=kind,
        fields=json.dumps(fields, ensure_ascii=False),
        payload=payload,
        revision=revision,
        asked=asked,
        asked_by=user,
    )
    return task, True


def keep(
    project: Project,
    kind: str,
    revision: int,
    fields: Mapping[str, Any],
    user: User,
    result: Result,
) -> LongTask:
    """A task that is done at once, so that what came of it is kept like that of others."""
    return LongTask.objects.create(
        project=project,
        line=project.line,
        code=secrets.token_hex(10),
        kind=kind,
        fields=json.dumps(fields, ensure_ascii=False),
        payload=b"",
        revision=revision,
        asked=asked_for(project, kind, revision, fields, result.data),
        asked_by=user,
        state=State.DONE,
        ended_at=timezone.now(),
        text=result.text,
        data=result.data,
    )


def find(project: Project, code: str) -> LongTask | None:
    """A task of a project, without its files; None where there is none."""
    return project.tasks.filter(code=code).defer("data", "payload").first()


def unfinished(project: Project, kind: str) -> LongTask | None:
    """The newest task of a kind that waits or runs, or None."""
    return project.tasks.unfinished().filter(kind=kind).defer("data", "payload").last()


def begin(code: str) -> LongTask | None:
    """Begin a task, or take it up again; None where it is gone, over, or was begun too often."""
    with transaction.atomic():
        task = LongTask.objects.select_for_update().filter(code=code).first()
        if task is None or task.is_over:
            return None
        if task.stopping:
            end(task, State.STOPPED, words="Stopped before it began.")
            return None
        if task.starts >= MOST_STARTS:
            end(task, State.FAILED, words="It ended before it was finished, several times.")
            return None
        task.state, task.starts = State.RUNNING, task.starts + 1
        task.share, task.words = 0, ""
        task.save(update_fields=["state", "starts", "share", "words"])
        LongTask.objects.filter(pk=task.pk).update(beat_at=timezone.now())
        return task


def tell(task: LongTask, share: float, words: str) -> bool:
    """Say how far a task is; whether it goes on: nobody has asked to stop it, and no other worker
    has taken it up."""
    rows = LongTask.objects.filter(pk=task.pk, starts=task.starts, state=State.RUNNING)
    rows.update(share=min(max(share, 0.0), 1.0), words=words[:300], beat_at=timezone.now())
    return rows.filter(stopping=False).exists()


def is_silent(task: LongTask) -> bool:
    """Whether a task runs, and who does it has not said so for some time: that worker is gone."""
    return LongTask.objects.silent(timezone.now() - GONE).filter(pk=task.pk).exists()


def take_back() -> list[LongTask]:
    """Let the tasks whose workers are gone wait again, or end those that have been stopped or begun
    too often; those that wait, without what they were given."""
    for task in LongTask.objects.silent(timezone.now() - GONE).defer("data", "payload"):
        with transaction.atomic():
            row = LongTask.objects.select_for_update().get(pk=task.pk)
            if not is_silent(row):
                continue
            if row.stopping:
                end(row, State.STOPPED, words="Stopped.")
            elif row.starts >= MOST_STARTS:
                end(row, State.FAILED, words="It ended before it was finished, several times.")
            else:
                LongTask.objects.filter(pk=row.pk).update(
                    state=State.WAITING, words="It was interrupted and starts again."
                )
    return list(LongTask.objects.filter(state=State.WAITING).defer("data", "payload"))


def stop(task: LongTask) -> None:
    """Ask a task to stop; one that has not begun is over at once."""
    with transaction.atomic():
        row = LongTask.objects.select_for_update().get(pk=task.pk)
        if row.state == State.WAITING:
            end(row, State.STOPPED, words="Stopped before it began.")
        elif row.state == State.RUNNING:
            if is_silent(row):
                end(row, State.STOPPED, words="Stopped.")
            else:
                LongTask.objects.filter(pk=task.pk).update(stopping=True)


def end(task: LongTask, state: str, words: str = "", result: Result | None = None) -> None:
    """Say what came of a task; nothing is said of one that another worker has taken up."""
    result = result or Result()
    LongTask.objects.unfinished().filter(pk=task.pk, starts=task.starts).update(
        state=state,
        words=words[:300],
        ended_at=timezone.now(),
        text=result.text,
        data=result.data,
        name=result.name,
        content_type=result.content_type,
        payload=b"",
    )


def fields_of(task: LongTask) -> dict[str, Any]:
    """What is asked for."""
    fields: dict[str, Any] = json.loads(task.fields)
    return fields


def purge() -> int:
    """Remove what ended longer ago than ``KEPT``, and end what has been unfinished for so long; returns
    how many are removed."""
    forgotten = LongTask.objects.unfinished().filter(asked_at__lt=timezone.now() - KEPT)
    for task in forgotten.defer("data", "payload"):
        end(task, State.FAILED, words="It was not finished within two days.")
    old = LongTask.objects.old(timezone.now() - KEPT)
    count = old.count()
    old.delete()
    return count
