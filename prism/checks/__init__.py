"""Checks: one a file, each a line in the registry below."""

from __future__ import annotations

from prism.checks import (
    absent,
    broken,
    contrast,
    default,
    elevation,
    hidden,
    literal,
    unit,
    unused,
)
from prism.checks.check import Analyzed, Check, Finding

#: Every check, in the order their findings are listed. A new check is a file and a line here.
CHECKS: tuple[Check, ...] = (
    contrast.CHECK,
    elevation.CHECK,
    broken.CHECK,
    hidden.CHECK,
    absent.CHECK,
    literal.CHECK,
    unused.CHECK,
    unit.CHECK,
    default.CHECK,
)

__all__ = ["CHECKS", "Check", "Finding", "run"]


def run(analysis: Analyzed, *ids: str) -> list[Finding]:
    """What the checks find, in the order of ``CHECKS``; only those of ``ids`` where any are given."""
    return [
        finding for check in CHECKS if not ids or check.id in ids for finding in check.run(analysis)
    ]


#: The checks of what is stored, beside contrast, which has a room of its own.
HYGIENE = tuple(check.id for check in CHECKS if check.id != "contrast")
