"""Binding the slots of a scene to tokens by their names."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from prism.model import lexicon
from prism.model.document import Document, Token
from prism.model.lexicon import words_of


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
    _slot("page", lexicon.SURFACE, lexicon.PAGE),
    _slot("card", lexicon.SURFACE, lexicon.CARD),
    _slot("raised", lexicon.SURFACE, lexicon.RAISED),
    _slot("sunken", lexicon.SURFACE, lexicon.SUNKEN),
    _slot("ink", lexicon.TEXT, lexicon.MAIN - {"base"}),
    _slot("muted", lexicon.TEXT, lexicon.QUIETER - {"subtle"}),
    _slot("faint", lexicon.TEXT, lexicon.FAINT),
    _slot("link", lexicon.TEXT, lexicon.LINK),
    _slot("line", lexicon.LINE, "soft subtle default"),
    _slot("line-strong", lexicon.LINE, "strong control"),
    _slot("action", lexicon.ACTION, lexicon.PLAIN),
    _slot("action-label", lexicon.ACTION | lexicon.TEXT, "label accent"),
    _slot("action-quiet", lexicon.ACTION, "quiet soft tint"),
    _slot("highlight", lexicon.HIGHLIGHT, lexicon.PLAIN),
    _slot("highlight-label", lexicon.HIGHLIGHT, "label"),
    _slot("go", lexicon.STATUS, lexicon.SUCCESS),
    _slot("wait", lexicon.STATUS, lexicon.WARNING),
    _slot("stop", lexicon.STATUS, lexicon.ERROR),
    _slot("note", lexicon.STATUS, lexicon.INFORMATION),
    _slot("veil", lexicon.OVERLAY, lexicon.SURFACE | {"hover", "soft"}),
    _slot("veil-strong", lexicon.OVERLAY, lexicon.STRONG),
    _slot("focus", lexicon.FOCUS, lexicon.LINE | {"ring"}),
    _slot("radius", lexicon.RADIUS, lexicon.CARD, type="dimension"),
    _slot("radius-small", lexicon.RADIUS, "control small", type="dimension"),
    _slot("gap", lexicon.SPACE, "gap base snug row", type="dimension"),
    _slot("lift", lexicon.SHADOW, lexicon.CARD | lexicon.RAISED, type="shadow"),
)


def guess(document: Document, slots: Iterable[Slot] = SLOTS) -> dict[str, str]:
    """Token keys by slot name, for every slot that some token's name fits.

    A semantic token beats a component, a short name a long one, an earlier token a later.
    """
    tokens = [
        (token, set(words := words_of(token.path)), len(words))
        for token in document.tokens
        if token.tier != "raw" or token.type != "color"
    ]
    keys = {}
    for slot in slots:
        fitting = [
            (token.tier != "semantic", length, position, token.key)
            for position, (token, words, length) in enumerate(tokens)
            if token.type == slot.type and _fits(words, slot)
        ]
        if fitting:
            keys[slot.name] = min(fitting)[3]
    return keys


def _fits(words: set[str], slot: Slot) -> bool:
    return meets(words, slot.words)


def is_page(path: str) -> bool:
    """Whether a name says that it is the page everything stands on."""
    return meets(set(words_of(path)), (lexicon.SURFACE, lexicon.PAGE))


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
