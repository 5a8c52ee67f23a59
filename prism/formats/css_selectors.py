"""Which modes a rule of a style sheet speaks of, by its selectors and media conditions.

A plain rule that can be overridden: ``:root`` and ``html`` are the base; a data attribute, or any
attribute of the root, names its axis (without ``data-``) and mode; a preference names the axis ``appearance`` or ``contrast``; a
class names a mode of ``appearance`` when it says light or dark.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

_SIMPLE = re.compile(
    r"""
    :not\(\s*(?P<not>[^()]*)\s*\)
    | (?P<root>:root|html|:where\(\s*:root\s*\)|:is\(\s*:root\s*\))
    | (?P<host>:host(?:\((?:[^()]|\([^()]*\))*\))?)
    | \[\s*(?P<attribute>[\w-]+)\s*=\s*(?P<quote>["']?)(?P<value>[^"'\]]*)(?P=quote)\s*\]
    | \.(?P<class>[\w-]+)
    """,
    re.VERBOSE | re.IGNORECASE,
)
_NEGATED = re.compile(
    r"\[\s*(?P<attribute>[\w-]+)\s*(?:=\s*[\"']?(?P<value>[^\"'\]]*)[\"']?)?\s*\]|\.(?P<class>[\w-]+)"
)
_PREFERENCE = re.compile(r"\(\s*(prefers-[\w-]+|forced-colors|inverted-colors)\s*:\s*([\w-]+)\s*\)")
_MEDIA_REST = re.compile(r"\b(?:only|screen|all|and)\b|[\s()]")
_AXES = {"prefers-color-scheme": "appearance", "prefers-contrast": "contrast"}

Picks = tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class Meaning:
    """What a selector means: axis and mode names; or why it is skipped.

    ``follows`` are triples of axis, media feature and its value, ``silent`` tells that nothing
    is lost by passing it over.
    """

    picks: Picks = ()
    follows: tuple[tuple[str, str, str], ...] = ()
    reason: str = ""
    silent: bool = False


def media_preferences(prelude: str) -> list[tuple[str, str]] | None:
    """Feature and value of each preference of a media query; None where it asks for more."""
    preferences = _PREFERENCE.findall(prelude)
    rest = _MEDIA_REST.sub("", _PREFERENCE.sub("", prelude))
    return (
        [(feature.lower(), value.lower()) for feature, value in preferences]
        if preferences and not rest
        else None
    )


def normalize(selector: str) -> str:
    """A selector without quotes and needless space, for comparing."""
    return re.sub(r"\s+", " ", selector.strip()).replace('"', "").replace("'", "")


def read(
    selector: str, preferences: list[tuple[str, str]], maps: Mapping[str, tuple[str, str]]
) -> Meaning:
    """What one selector of a rule, inside media queries of ``preferences``, speaks of."""
    named = maps.get(normalize(selector))
    if named is not None:
        return _with_preferences({named[0]: named[1]}, set(), preferences)
    picks: dict[str, str] = {}
    unmarked: set[str] = set()
    place, rooted = 0, False
    for match in _SIMPLE.finditer(selector):
        if match.start() != place:
            break
        place = match.end()
        rooted = rooted or match["root"] is not None
        if match["not"] is not None:
            negated = _NEGATED.fullmatch(match["not"].strip())
            if negated is None:
                return Meaning(reason="holds only where something is not")
            unmarked.add(_axis(negated["attribute"]) if negated["attribute"] else "appearance")
        elif match["host"]:
            return Meaning(reason="speaks of shadow roots", silent=True)
        elif match["attribute"]:
            if not (rooted or match["attribute"].lower().startswith("data-")):
                return Meaning(reason="speaks of a part of the page")
            picks[_axis(match["attribute"])] = match["value"]
        elif match["class"]:
            mode = class_mode(match["class"])
            if mode is None:
                return Meaning(reason=f"the class .{match['class']} names no mode; map it to one")
            picks["appearance"] = mode
    if place != len(selector.strip()) or not selector.strip():
        return Meaning(reason="speaks of a part of the page")
    return _with_preferences(picks, unmarked, preferences)


def class_mode(name: str) -> str | None:
    """The mode of ``appearance`` that a class on the root names, or None."""
    words = re.split(r"[-_]", name.lower())
    return next((mode for mode in ("dark", "light") if mode in words), None)


def _axis(attribute: str) -> str:
    return attribute.lower().removeprefix("data-")


def _with_preferences(
    picks: dict[str, str], unmarked: set[str], preferences: list[tuple[str, str]]
) -> Meaning:
    follows = []
    for feature, value in preferences:
        free = sorted(unmarked - set(picks))
        axis = free[0] if free else _AXES.get(feature, feature.removeprefix("prefers-"))
        picks.setdefault(axis, value)
        follows.append((axis, feature, value))
    return Meaning(tuple(picks.items()), tuple(follows))
