"""Tests. Those of properties try the same cases each time, so that what passes here passes elsewhere; with
``NIMBLE_PRISM_CHANCE=20`` they try twenty times as many, others each time."""

import os
from typing import Any

from hypothesis import settings

CHANCE = int(os.environ.get("NIMBLE_PRISM_CHANCE", "0"))
settings.register_profile("steady", derandomize=True)
settings.register_profile("chance", derandomize=False, print_blob=True)
settings.load_profile("chance" if CHANCE else "steady")


def tried(count: int, **more: Any) -> settings:
    """So many cases of a property, however long each takes."""
    return settings(max_examples=count * (CHANCE or 1), deadline=None, **more)
