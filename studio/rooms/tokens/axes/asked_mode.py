"""A proposed mode that is asked for, over the document as it is, or as it is with an axis of appearances."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from prism.analysis import Analysis
from prism.model.document import Mode
from prism.modes import proposal
from prism.modes.review import Asked
from prism.roles import rules

#: The key of a mode that is only proposed.
KEY = "proposed"


def _begun(analysis: Analysis) -> tuple[Analysis, str, str]:
    """A document without an axis with one of appearances, and the keys of its axis and its mode."""
    document, axis, source = proposal.with_appearance(analysis.document, KEY)
    return Analysis(document), axis, source


def prepared(analysis: Analysis, asked: Asked) -> tuple[Analysis, Asked]:
    """What is proposed over, and what is asked of it."""
    if asked.axis or analysis.document.axes:
        return analysis, asked
    begun, axis, source = analysis.once(_begun)
    return begun, replace(asked, axis=axis, source=source)


def pairings(analysis: Analysis) -> int:
    """How many pairings a proposal is judged by."""
    return len(rules.demanded(analysis.document, analysis.roles))


def fields_of(asked: Asked) -> dict[str, Any]:
    """What is asked for, as a long task keeps it."""
    return {
        "axis": asked.axis,
        "source": asked.source,
        "name": asked.mode.name,
        "scheme": asked.mode.color_scheme,
        "intent": asked.intent,
        "hues": [list(pair) for pair in asked.hues],
        "factor": asked.factor,
        "decided": [[key, text] for key, text in sorted(asked.decided, key=lambda pair: pair[0])],
    }


def asked_of(fields: Mapping[str, Any]) -> Asked:
    """What ``fields_of`` wrote."""
    return Asked(
        fields["axis"],
        fields["source"],
        Mode(KEY, fields["name"], color_scheme=fields["scheme"]),
        tuple((key, text) for key, text in fields["decided"]),
        True,
        fields["intent"],
        tuple((old, new) for old, new in fields["hues"]),
        fields["factor"],
    )
