"""Fixing everything that falls short as a long task."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from prism.contrast import fix_all_view
from studio.store.tasks import Result
from studio.work.kinds import StoppedError, Work, long_task
from studio.work.searching import Searching

FIX_ALL = "fix-all"


def scope_fields(scope: fix_all_view.Scope) -> dict[str, Any]:
    """What is to be fixed, as a long task keeps it."""
    return asdict(scope) | {"held": sorted(scope.held)}


def scope_of(fields: Mapping[str, Any]) -> fix_all_view.Scope:
    """What ``scope_fields`` wrote."""
    return fix_all_view.Scope(**{**fields, "held": frozenset(fields["held"])})


@long_task(FIX_ALL, "Solving what falls short")
def solve_all(work: Work) -> Result:
    """What the review needs to find nothing again."""
    work.tell(0, "looking at what each color could be.")
    result = fix_all_view.searched(work.analysis, scope_of(work.fields), Searching(work).watch())
    if not result:
        raise StoppedError
    return Result(result)
