"""Rules within rules: where in a style sheet a declaration stands."""

from __future__ import annotations

import itertools
import re
from dataclasses import dataclass, replace
from typing import Any

import tinycss2

from prism.formats import css_selectors
from prism.formats.css_tokens import comma_parts

_ENDS = re.compile(r"[;{}]|\*/")
#: Characters of an unreadable declaration that are shown.
_SHOWN = 60


@dataclass(frozen=True, slots=True)
class Place:
    """Where in a style sheet one reads: selectors, preferences, and why it is skipped."""

    selectors: tuple[str, ...] = ()
    preferences: tuple[tuple[str, str], ...] = ()
    reason: str = ""


def nested_selectors(outer: tuple[str, ...], prelude: list[Any]) -> tuple[str, ...]:
    """Selectors of a rule, within those of the rule around it (CSS Nesting)."""
    inner = [tinycss2.serialize(part).strip() for part in comma_parts(prelude)]
    if not outer:
        return tuple(inner)
    return tuple(
        selector.replace("&", around) if "&" in selector else f"{around} {selector}"
        for around in outer
        for selector in inner
    )


def inside_at_rule(place: Place, rule: Any) -> Place:
    """The place inside an at-rule."""
    name = rule.lower_at_keyword
    prelude = tinycss2.serialize(rule.prelude).strip()
    if name in ("layer", "supports"):
        return place
    preferences = css_selectors.media_preferences(prelude) if name == "media" else None
    if preferences is None:
        return replace(place, reason=place.reason or f"holds only under @{name} {prelude}".strip())
    return replace(place, preferences=(*place.preferences, *preferences))


def contents_of(rule: Any, place: Place) -> list[Any]:
    """What stands in a rule: declarations and rules, or rules alone at the top."""
    parse_inner = tinycss2.parse_blocks_contents if place.selectors else tinycss2.parse_rule_list
    return list(parse_inner(rule.content, skip_comments=True, skip_whitespace=True))


class Source:
    """The text of a style sheet, with line ends as CSS counts them."""

    def __init__(self, text: str) -> None:
        self.text = re.sub("\r\n?|\f", "\n", text)
        lengths = (len(line) + 1 for line in self.text.split("\n"))
        self._starts = (0, *itertools.accumulate(lengths))

    def unreadable(self, error: Any) -> str:
        """The start of the custom property that a parse error stands for; empty for any other."""
        place = self._starts[error.source_line - 1] + error.source_column - 1
        before = _ENDS.split(self.text[max(0, place - _SHOWN) : place])[-1]
        after = _ENDS.split(self.text[place : place + _SHOWN])[0]
        declaration = " ".join((before + after).split())
        return declaration[:_SHOWN] if declaration.startswith("--") else ""
