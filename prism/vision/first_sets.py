"""The sets of colors that must be told apart in a document that has just come: what its colors are for says them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from prism.model.document import Document, TellingApart
from prism.resolution.current import resolver_of
from prism.roles.grounds import Guess
from prism.roles.guess import guess
from prism.vision.distinguishing import sets_by_role

#: Actions that are set beside what says that something is wrong.
_MOST_BESIDE = 3


def with_sets(document: Document, new_key: Callable[[], str]) -> Document:
    """The document with the sets that must be told apart by what its colors are for, where it has none: statuses, series
    of charts, and actions beside what says that something is wrong."""
    if document.telling_apart:
        return document
    roles = guess(document, resolver_of(document))
    sets = sets_by_role(document, roles)
    beside = _actions_beside_errors(document, roles)
    if beside:
        sets.append(("Actions and errors", beside))
    made = tuple(TellingApart(new_key(), *members) for members in sets)
    return replace(document, telling_apart=made) if made else document


def _actions_beside_errors(document: Document, roles: dict[str, Guess]) -> tuple[str, ...]:
    """The fills of actions and of errors, each without its states; empty where one of them is not there."""
    fills: dict[str, list[str]] = {"action": [], "error": []}
    for token in document.tokens:
        known = roles.get(token.key)
        if known is None or known.role.state or token.type != "color":
            continue
        if (known.role.kind, known.role.detail) == ("fill", "action"):
            fills["action"].append(token.key)
        elif known.role.status == "error" and known.role.detail in ("fill", "text"):
            fills["error"].append(token.key)
    if not all(fills.values()):
        return ()
    return (*fills["action"][:_MOST_BESIDE], *fills["error"][:1])
