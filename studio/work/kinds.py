"""The kinds of long tasks. A kind is one function in the ``tasks`` module of the part of a room that asks for it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from prism.analysis import Analysis
from prism.errors import PrismError
from studio.store import projects as store
from studio.store.models import LongTask
from studio.store.tasks import Result, fields_of


class StoppedError(PrismError):
    """A task that was stopped before anything came of it."""

    def __init__(self) -> None:
        super().__init__("It was stopped before anything was found.")


@dataclass(frozen=True, slots=True)
class Work:
    """A task as it is done: ``tell`` says how far it is, from 0 to 1, and in words; ``stopped`` whether
    somebody asked to stop it."""

    task: LongTask
    tell: Callable[[float, str], None]
    stopped: Callable[[], bool]

    @property
    def fields(self) -> dict[str, Any]:
        """What is asked for."""
        return fields_of(self.task)

    @property
    def analysis(self) -> Analysis:
        """The document at the revision that is asked about. Raises ``PrismError`` where there is none."""
        return store.at(self.task.asked_about, self.task.revision).analysis


Run = Callable[[Work], Result]
KINDS: dict[str, tuple[str, Run]] = {}


def long_task(kind: str, title: str) -> Callable[[Run], Run]:
    """Register a kind under an id, with what it does in words, as “Solving a mode”."""

    def register(run: Run) -> Run:
        if kind in KINDS:
            raise ValueError(f"Two kinds of tasks are called {kind}.")
        KINDS[kind] = title, run
        return run

    return register


def title_of(task: LongTask) -> str:
    """What a task does, in words."""
    return KINDS[task.kind][0] if task.kind in KINDS else "Working"


def run(work: Work) -> Result:
    """Do a task. Raises ``PrismError`` where it cannot be done."""
    if work.task.kind not in KINDS:
        raise PrismError("This version does not know this kind of task.", fix="Start it again.")
    return KINDS[work.task.kind][1](work)
