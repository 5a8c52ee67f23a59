"""The number beside each room on the route, by the room's name."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from prism import checks
from prism.analysis import Analysis
from prism.roles.by_slot import SCENES


def _raw_colors(analysis: Analysis) -> int:
    return sum(token.is_raw_color for token in analysis.document.tokens)


def _open_findings(analysis: Analysis) -> int:
    return sum(finding.is_open() for finding in analysis.once(checks.findings))


COUNTS: Mapping[str, Callable[[Analysis], int]] = {
    "palette": _raw_colors,
    "tokens": lambda analysis: len(analysis.document.tokens),
    "stage": lambda analysis: len(SCENES),
    "checks": _open_findings,
    "exchange": lambda analysis: analysis.resolver.theme_count,
}
