"""What at-rules ask for: media queries (Media Queries 5), feature queries, layers."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product
from typing import Any

import tinycss2

from prism.formats.css import FEATURES
from prism.formats.style_sheets.page import Test, Tests
from prism.formats.style_sheets.tokens import comma_parts, trim

#: Alternatives, one of which must hold; empty where none ever does.
Alternatives = list[Tests]
_ALWAYS: Alternatives = [frozenset()]
_TYPES = {"all": True, "screen": True, "print": False, "speech": False, "tty": False}
#: Prefixes of properties that Chromium does not have.
_FOREIGN = ("-moz-", "-ms-", "-o-")
#: What a preference is where the bare feature stands for any of its other values.
_NO_PREFERENCE = ("no-preference", "none")


class UnknownConditionError(Exception):
    """A condition that says nothing of the page that a mode could stand for."""


def media(prelude: Sequence[Any]) -> Alternatives:
    """The alternatives that a media query list asks for. Raises ``UnknownConditionError``."""
    ways: Alternatives = []
    unknown = False
    for query in comma_parts(prelude):
        try:
            ways += _query(_words(query))
        except UnknownConditionError:
            unknown = True
    if frozenset() in ways:  # one that always holds
        return _ALWAYS
    if unknown:
        raise UnknownConditionError
    return ways


def _words(tokens: Sequence[Any]) -> list[Any]:
    return [token for token in trim(tokens) if token.type not in ("whitespace", "comment")]


def _query(words: list[Any]) -> Alternatives:
    negated = _is(words, "not") and len(words) > 1 and words[1].type == "ident"
    if negated or _is(words, "only"):
        words = words[1:]
    if words and words[0].type == "ident" and words[0].lower_value in _TYPES:
        matches = _TYPES[words[0].lower_value]
        rest = words[1:]
        if rest and not _is(rest, "and"):
            raise UnknownConditionError
        if not matches:
            inner: Alternatives = []
        else:
            inner = _condition(rest[1:]) if rest else _ALWAYS
        return _not(inner) if negated else inner
    return _condition(words)


def _is(words: Sequence[Any], name: str) -> bool:
    return bool(words) and words[0].type == "ident" and words[0].lower_value == name


def _condition(words: list[Any]) -> Alternatives:
    """A condition: features in brackets, joined by ``and``, ``or`` or ``not``."""
    if _is(words, "not"):
        return _not(_condition(words[1:]))
    if not words:
        raise UnknownConditionError
    parts, joints = words[0::2], words[1::2]
    kinds = {joint.lower_value for joint in joints if joint.type == "ident"}
    if len(words) % 2 == 0 or len(kinds) > 1 or not kinds <= {"and", "or"}:
        raise UnknownConditionError
    ways = _in_brackets(parts[0])
    for part in parts[1:]:
        more = _in_brackets(part)
        ways = ways + more if kinds == {"or"} else _and(ways, more)
    return ways


def _in_brackets(token: Any) -> Alternatives:
    if token.type != "() block":
        raise UnknownConditionError
    words = _words(token.content)
    if not words:
        raise UnknownConditionError
    if words[0].type == "() block" or _is(words, "not"):
        return _condition(words)
    name = words[0].lower_value if words[0].type == "ident" else ""
    if name not in FEATURES:
        raise UnknownConditionError
    if len(words) == 1:
        return [
            frozenset((Test("media", name, value),))
            for value in FEATURES[name]
            if value not in _NO_PREFERENCE
        ]
    if len(words) == 3 and words[1].type == "literal" and words[1].value == ":":
        value = words[2].lower_value if words[2].type == "ident" else ""
        if value in FEATURES[name]:
            return [frozenset((Test("media", name, value),))]
    raise UnknownConditionError


def _and(first: Alternatives, second: Alternatives) -> Alternatives:
    return [way | other for way, other in product(first, second)]


def _not(ways: Alternatives) -> Alternatives:
    """What holds where none of the alternatives does."""
    denied: Alternatives = _ALWAYS
    for way in ways:
        negated = [
            frozenset((Test(t.kind, t.name, t.value, t.operator, t.ignore_case, not t.negated),))
            for t in way
        ]
        denied = _and(denied, negated)
    return denied


def supported(prelude: Sequence[Any]) -> bool:
    """Whether a browser of today has what a feature query asks for (CSS Conditional 4).

    Properties and functions are taken as known but for those with the prefix of another browser.
    """
    words = _words(prelude)
    if _is(words, "not"):
        return not supported(words[1:])
    parts = [word for word in words if word.type in ("() block", "function")]
    joints = {word.lower_value for word in words if word.type == "ident"}
    results = [_known(part) for part in parts]
    return any(results) if "or" in joints else all(results)


def _known(part: Any) -> bool:
    if part.type == "function":
        return True
    words = _words(part.content)
    if words and (words[0].type == "() block" or _is(words, "not")):
        return supported(words)
    name = words[0].lower_value if words and words[0].type == "ident" else ""
    return not name.startswith(_FOREIGN)


def shown(prelude: Sequence[Any]) -> str:
    """The text of a prelude on one line."""
    return " ".join(str(tinycss2.serialize(prelude)).split())
