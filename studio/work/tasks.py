"""Doing long tasks: the one job of the queue, and the one that takes up what a worker has left undone.

The queue holds the code of a task alone; what is asked for and what came of it stand in the tables. A project's
tasks are done one after the other, so that one project does not keep all workers.
"""

from __future__ import annotations

import logging
import threading
import traceback
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from asgiref.sync import async_to_sync
from django.db import close_old_connections, transaction
from procrastinate.contrib.django import app
from procrastinate.jobs import Job

from prism.errors import PrismError
from studio.rooms.frame import AnyFrame
from studio.store import tasks as store
from studio.store.models import LongTask
from studio.work import kinds

_LOG = logging.getLogger("studio.errors")
#: Seconds between two looks at whether somebody asked to stop.
_LOOKS = 0.5
#: Seconds without a sign of life after which a worker counts as gone.
GONE = 20


def ask(*args: Any, **fields: Any) -> LongTask:
    """``store.tasks.ask``, and put what is new into the queue, in one transaction."""
    with transaction.atomic():
        task, new = store.ask(*args, **fields)
        if new:
            perform.configure(lock=f"project {task.project_id}").defer(code=task.code)
    return task


def of_page(frame: AnyFrame, kind: str, code: str) -> LongTask | None:
    """The task that an address names, where it is of a kind and about the document as it is now."""
    task = store.find(frame.project, code) if code else None
    if task is None or task.kind != kind or task.revision != frame.loaded.revision:
        return None
    return task


@app.task(name="perform", queue="tasks")
def perform(code: str) -> None:
    """Do the task of this code and say what came of it; an error is the task's, not the queue's."""
    close_old_connections()
    task = store.begin(code)
    if task is None:
        return
    with _watched(task) as work:
        try:
            result = kinds.run(work)
        except kinds.StoppedError as error:
            store.end(task, store.State.STOPPED, words=str(error))
        except PrismError as error:
            store.end(task, store.State.FAILED, words=str(error))
        except Exception:
            _LOG.error("A long task failed: %s\n%s", task, traceback.format_exc())
            store.end(task, store.State.FAILED, words="Something went wrong. It is our mistake.")
        else:
            store.end(task, store.State.DONE, result=result)
    close_old_connections()


@contextmanager
def _watched(task: LongTask) -> Iterator[kinds.Work]:
    """A task whose words are stored, and whose stop is noticed, while it is done: by a thread of its own, so that
    long computing does not wait for the database, and a search can be ended from outside."""
    latest: list[tuple[float, str]] = [(0.0, "")]
    over, stopped = threading.Event(), threading.Event()

    def look() -> None:
        while not over.wait(_LOOKS):
            if not store.tell(task, *latest[0]):
                stopped.set()
        close_old_connections()

    def tell(share: float, words: str) -> None:
        latest[0] = share, words

    watcher = threading.Thread(target=look, daemon=True)
    watcher.start()
    try:
        yield kinds.Work(task, tell, stopped.is_set)
    finally:
        over.set()
        watcher.join()


@app.periodic(cron="* * * * *")
@app.task(name="take-up", queue="tasks", queueing_lock="take-up", pass_context=False)
async def take_up(timestamp: int) -> None:
    """Put back what workers that are gone have left undone."""
    await _put_back(GONE)


async def _put_back(seconds: float) -> int:
    left: list[Job] = list(await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=seconds))
    for job in left:
        await app.job_manager.retry_job(job)
    return len(left)


def put_back(seconds: float = GONE) -> int:
    """Put back what workers without a sign of life for so many seconds have left; returns how many."""
    return async_to_sync(_put_back)(seconds)
