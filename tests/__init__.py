"""Tests. Those of properties try few cases, and the same each time, so that what passes here passes elsewhere; with
``NIMBLE_PRISM_CHANCE=20`` they try twenty times as many and more, others each time, as ``./dev long`` does."""

import os
from collections.abc import Sequence
from typing import Any, TypeVar

from hypothesis import settings

T = TypeVar("T")
CHANCE = int(os.environ.get("NIMBLE_PRISM_CHANCE", "0"))
settings.register_profile("steady", derandomize=True)
settings.register_profile("chance", derandomize=False, print_blob=True)
settings.load_profile("chance" if CHANCE else "steady")


def few(count: int) -> int:
    """So many cases, and half of them where nobody asks for more."""
    return count * CHANCE if CHANCE else max(count // 2, min(count, 10))


def tried(count: int, **more: Any) -> settings:
    """``few`` cases of a property, however long each takes."""
    return settings(max_examples=few(count), deadline=None, **more)


def by_turns(things: Sequence[T], share: int) -> Sequence[T]:
    """One of every ``share`` things, or all where somebody asks for more."""
    return things if CHANCE else things[::share]
