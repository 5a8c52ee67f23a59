"""Binding the slots of a scene to tokens by their names."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from prism.model.document import Document, Token

_WORD = re.compile(r"[A-Za-z][a-z]*|\d+")
_GROUND = frozenset(("surface", "ground", "background", "bg", "canvas"))
_TEXT = frozenset(("text", "ink", "foreground", "fg", "content"))
_LINE = frozenset(("line", "border", "stroke", "divider", "outline"))
_ACT = frozenset(("action", "accent", "primary", "interactive"))
_SIGNAL = frozenset(("signal", "status", "feedback", "state"))
_PLAIN = frozenset(("main", "primary", "default", "base", "body", "root", "fill", "strong"))


@dataclass(frozen=True, slots=True)
class Slot:
    """A styled property of a scene.

    ``words`` are sets of which a token's path must meet each, most telling first; ``type`` is
    the token type it takes.
    """

    name: str
    words: tuple[frozenset[str], ...]
    type: str = "color"


def _slot(name: str, *words: frozenset[str] | str, type: str = "color") -> Slot:
    sets = tuple(frozenset(word.split()) if isinstance(word, str) else word for word in words)
    return Slot(name, sets, type)


#: The slots that the shipped scenes use, in the order they are listed.
SLOTS = (
    _slot("page", _GROUND, "page base canvas"),
    _slot("card", _GROUND, "card panel"),
    _slot("raised", _GROUND, "raised high"),
    _slot("sunken", _GROUND, "sunken well low"),
    _slot("ink", _TEXT, "main primary default body"),
    _slot("muted", _TEXT, "muted secondary quiet"),
    _slot("faint", _TEXT, "faint tertiary disabled"),
    _slot("link", _TEXT, "link"),
    _slot("line", _LINE, "soft subtle default"),
    _slot("line-strong", _LINE, "strong control"),
    _slot("action", _ACT, _PLAIN),
    _slot("action-label", _ACT | _TEXT, "label accent"),
    _slot("action-quiet", _ACT, "quiet soft tint"),
    _slot("highlight", "highlight lamp second", _PLAIN),
    _slot("highlight-label", "highlight lamp second", "label"),
    _slot("go", _SIGNAL, "go success ok"),
    _slot("wait", _SIGNAL, "wait hold late warning"),
    _slot("stop", _SIGNAL, "stop danger error"),
    _slot("note", _SIGNAL, "note info information notice"),
    _slot("veil", "veil overlay scrim wash", _GROUND | frozenset(("hover", "soft"))),
    _slot("veil-strong", "veil overlay scrim wash", "pressed strong selected"),
    _slot("focus", "focus", "ring line outline"),
    _slot("radius", "radius corner", "card panel", type="dimension"),
    _slot("radius-small", "radius corner", "control small", type="dimension"),
    _slot("gap", "space spacing", "gap base snug row", type="dimension"),
    _slot("lift", "shadow elevation", "card raised", type="shadow"),
)


def words_of(path: str) -> list[str]:
    """The words of a path, lower case; camel case counts as several."""
    return [word.lower() for word in _WORD.findall(path.replace("$root", "root"))]


def guess(document: Document, slots: Iterable[Slot] = SLOTS) -> dict[str, str]:
    """Token keys by slot name, for every slot that some token's name fits.

    A semantic token beats a component, a short name a long one, an earlier token a later.
    """
    tokens = [
        (token, set(words := words_of(token.path)), len(words))
        for token in document.tokens
        if token.tier != "raw" or token.type != "color"
    ]
    found = {}
    for slot in slots:
        fitting = [
            (token.tier != "semantic", length, position, token.key)
            for position, (token, words, length) in enumerate(tokens)
            if token.type == slot.type and _fits(words, slot)
        ]
        if fitting:
            found[slot.name] = min(fitting)[3]
    return found


def _fits(words: set[str], slot: Slot) -> bool:
    return meets(words, slot.words)


def meets(words: set[str], wanted: tuple[frozenset[str], ...]) -> bool:
    """Whether each set of words can be met by a word of its own."""
    if not wanted:
        return True
    return any(meets(words - {word}, wanted[1:]) for word in words & wanted[0])


def bound(
    document: Document, stored: Mapping[str, str], guessed: Mapping[str, str]
) -> dict[str, Token]:
    """The token of each slot: the stored binding where its token exists, else the guess."""
    keys = dict(guessed) | {
        slot: key for slot, key in stored.items() if document.token(key) is not None
    }
    return {slot: token for slot, key in keys.items() if (token := document.token(key)) is not None}
