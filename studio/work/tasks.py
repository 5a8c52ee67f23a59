"""Doing long tasks: the one job of the queue, and the one that takes up what a worker has left undone.

The queue holds the code of a task alone; what is asked for and what came of it stand in the tables. A project's
tasks are done one after the other, so that one project does not keep all workers.
"""

from __future__ import annotations

import logging
import threading
import time
import traceback
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Any

from asgiref.sync import async_to_sync
from django.db import DatabaseError, close_old_connections, transaction
from django.utils import timezone
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob, ProcrastinateWorker

from prism.errors import PrismError
from studio import memory
from studio.rooms.frame import AnyFrame
from studio.store import tasks as store
from studio.store.models import LongTask
from studio.work import kinds

_LOG = logging.getLogger("studio.errors")
#: Seconds between two looks at whether somebody asked to stop.
_LOOKS = 0.5
#: Seconds without a sign of life after which a worker counts as gone.
GONE = 20
#: Seconds without any worker after which a task that waits is ended.
ALONE = 60
#: Seconds for which what came of a task is tried to be written.
_PERSISTENCE = 120


def ask(*args: Any, **fields: Any) -> LongTask:
    """``store.tasks.ask``, and put what is new into the queue, in one transaction."""
    with transaction.atomic():
        task, new = store.ask(*args, **fields)
        if new:
            _queue(task)
    return task


def _queue(task: LongTask) -> None:
    perform.configure(lock=f"project {task.project_id}").defer(code=task.code)


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
        ended: tuple[str, str, store.Result | None]
        try:
            ended = store.State.DONE, "", kinds.run(work)
        except kinds.StoppedError as error:
            ended = store.State.STOPPED, str(error), None
        except PrismError as error:
            ended = store.State.FAILED, str(error), None
        except DatabaseError:
            _LOG.error("The database left a long task: %s\n%s", task, traceback.format_exc())
            return  # it is taken up again once nobody has said for a while that it is being done
        except Exception:
            _LOG.error("A long task failed: %s\n%s", task, traceback.format_exc())
            words = "Something went wrong. It is our mistake."
            ended = store.State.FAILED, words, None
    state, words, result = ended
    if work.stopped() and state == store.State.FAILED:
        state = store.State.STOPPED
    _persist(lambda: store.end(task, state, words=words, result=result))
    close_old_connections()
    memory.give_back()


def _persist(write: Callable[[], object]) -> None:
    """Write something, again for a while where the database is not there."""
    deadline = time.monotonic() + _PERSISTENCE
    while True:
        try:
            write()
            return
        except DatabaseError:
            close_old_connections()
            if time.monotonic() > deadline:
                raise
            time.sleep(_LOOKS)


@contextmanager
def _watched(task: LongTask) -> Iterator[kinds.Work]:
    """A task whose words are stored, and whose stop is noticed, while it is done: by a thread of its own, so that
    long computing does not wait for the database, and a search can be ended from outside."""
    latest: list[tuple[float, str]] = [(0.0, "")]
    over, stopped = threading.Event(), threading.Event()

    def look() -> None:
        while not over.wait(_LOOKS):
            try:
                if not store.tell(task, *latest[0]):
                    stopped.set()
            except DatabaseError:
                close_old_connections()  # it is asked again with the next look
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


@app.periodic(cron="* * * * * */10")
@app.task(name="take-up", queue="tasks", queueing_lock="take-up", pass_context=False)
def take_up(timestamp: int) -> None:
    """Put back what workers that are gone have left undone."""
    close_old_connections()
    put_back()


def put_back(seconds: float = GONE) -> int:
    """Queue again what workers that are gone have left, whatever the queue knows of it, and end what no
    worker is there for; returns how many tasks are queued again."""
    back = async_to_sync(_retry_stalled)(seconds)
    waiting = store.take_back()
    queued = {
        str(job.args.get("code", ""))
        for job in ProcrastinateJob.objects.filter(
            task_name="perform", status__in=("todo", "doing")
        )
    }
    for task in waiting:
        if task.code not in queued:
            _queue(task)
            back += 1
    return back


async def _retry_stalled(seconds: float) -> int:
    """Queue again the jobs of workers without a sign of life for some seconds; returns how many."""
    left = list(await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=seconds))
    for job in left:
        await app.job_manager.retry_job(job)
    return len(left)


def look_after(task: LongTask) -> None:
    """See to a task that somebody waits for: put it back where its worker is gone, and end it where no
    worker is there at all."""
    if task.is_over:
        return
    waits_long = task.asked_at < timezone.now() - timedelta(seconds=ALONE)
    if store.is_silent(task):
        put_back()
    elif task.state == store.State.WAITING and waits_long and not _has_worker():
        words = "No worker for long tasks is running. Start one, then ask again."
        store.end(task, store.State.FAILED, words=words)


def _has_worker() -> bool:
    since = timezone.now() - timedelta(seconds=ALONE)
    return ProcrastinateWorker.objects.filter(last_heartbeat__gte=since).exists()
