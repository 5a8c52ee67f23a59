"""The tokens that the slots of a scene take by what they are for, where names of slots say nothing."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from prism.model.document import Document
from prism.roles.grounds import Guess
from prism.roles.role import Role

_Fits = Callable[[Role], bool]


def _is(kind: str, *details: str) -> _Fits:
    return lambda role: role.kind == kind and (not details or role.detail in details)


def _level(*levels: int) -> _Fits:
    return lambda role: role.kind == "surface" and not role.detail and role.level in levels


def _status(status: str) -> tuple[_Fits, ...]:
    def fits(detail: str) -> _Fits:
        return lambda role: (role.kind, role.detail, role.status) == ("status", detail, status)

    return fits("text"), fits("fill")


#: What each slot takes, what fits best first.
_SLOTS: Mapping[str, tuple[_Fits, ...]] = {
    "page": (_is("page"),),
    "card": (_level(1), _level(0, 2)),
    "raised": (_level(2, 3, 4), _level(1)),
    "sunken": (_level(-1), _is("fill", "field")),
    "ink": (_is("text", ""),),
    "muted": (_is("text", "quiet"), _is("text", "hint")),
    "faint": (_is("text", "hint"), _is("text", "quiet")),
    "link": (_is("text", "link"),),
    "line": (_is("line", "soft"),),
    "line-strong": (_is("line", "strong", "control"), _is("line")),
    "action": (_is("fill", "action"), _is("fill", "accent")),
    "highlight": (_is("fill", "accent"), _is("fill", "action")),
    "go": _status("success"),
    "wait": _status("warning"),
    "stop": _status("error"),
    "note": _status("information"),
    "focus": (_is("focus"),),
}
#: Slots of labels, and those of their fills.
_LABELS = {"action-label": "action", "highlight-label": "highlight"}


def by_slot(document: Document, guesses: Mapping[str, Guess]) -> dict[str, str]:
    """Token keys by slot name, in document order where several fit; states are left out."""
    plain = [
        (token.key, guesses[token.key])
        for token in document.tokens
        if token.key in guesses and not guesses[token.key].role.state
    ]
    taken: dict[str, str] = {}
    for slot, choices in _SLOTS.items():
        for fits in choices:
            key = next((key for key, known in plain if fits(known.role)), "")
            if key:
                taken[slot] = key
                break
    for slot, fill in _LABELS.items():
        for key, known in plain:
            if known.role.kind == "label" and known.belongs_to == taken.get(fill):
                taken.setdefault(slot, key)
    return taken
