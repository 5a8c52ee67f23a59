"""Rules within rules: where in a style sheet a declaration stands."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import tinycss2

from prism.formats import css_selectors
from prism.formats.css_tokens import comma_parts


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
        one.replace("&", around) if "&" in one else f"{around} {one}"
        for around in outer
        for one in inner
    )


def inside_at_rule(place: Place, rule: Any) -> Place:
    """The place inside an at-rule."""
    name = rule.lower_at_keyword
    prelude = tinycss2.serialize(rule.prelude).strip()
    if name in ("layer", "supports"):
        return place
    found = css_selectors.media_preferences(prelude) if name == "media" else None
    if found is None:
        return replace(place, reason=place.reason or f"holds only under @{name} {prelude}".strip())
    return replace(place, preferences=(*place.preferences, *found))


def contents_of(rule: Any, place: Place) -> list[Any]:
    """What stands in a rule: declarations and rules, or rules alone at the top."""
    parse_inner = tinycss2.parse_blocks_contents if place.selectors else tinycss2.parse_rule_list
    return list(parse_inner(rule.content, skip_comments=True, skip_whitespace=True))
