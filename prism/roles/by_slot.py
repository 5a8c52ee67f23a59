"""The tokens that the slots of a scene take by what they are for."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence

from prism.model.document import Document, Token
from prism.roles.grounds import Guess
from prism.roles.lexicon import meanings_of, words_for, words_of
from prism.roles.role import Role

_Fits = Callable[[Role], bool]


def _is(kind: str, *details: str) -> _Fits:
    return lambda role: role.kind == kind and (not details or role.detail in details)


def _level(*levels: int) -> _Fits:
    return lambda role: role.kind == "surface" and not role.detail and role.level in levels


def _state(*states: str) -> _Fits:
    return lambda role: role.kind == "overlay" and role.state in states


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
#: Slots of states, which are overlays.
_OVERLAYS: Mapping[str, tuple[_Fits, ...]] = {
    "veil": (_state("hover"), _state("selected", "focus")),
    "veil-strong": (_state("pressed"), _state("selected")),
}
#: Slots of labels, and those of their fills.
_LABELS = {"action-label": "action", "highlight-label": "highlight"}
#: Slots of measures and shadows: the type they take, what its name means, and words that tell which,
#: the most telling first.
_MEASURES = {
    "radius": ("dimension", "radius", "card panel surface medium md base"),
    "radius-small": ("dimension", "radius", "control button field input small sm"),
    "gap": ("dimension", "space", "row gap snug base medium md"),
    "lift": ("shadow", "shadow", "card panel raised medium md"),
}
#: All slots that the shipped scenes use, in the order they are listed.
SLOTS = (*_SLOTS, *_OVERLAYS, *_LABELS, "action-quiet", *_MEASURES)


def by_slot(document: Document, guesses: Mapping[str, Guess]) -> dict[str, str]:
    """Token keys by slot name. Semantic tokens come before others, then document order decides."""
    known = [(token, guesses[token.key]) for token in document.tokens if token.key in guesses]
    plain = [(token, held) for token, held in known if not held.role.state]
    loud = [pair for pair in plain if pair[1].role.kind != "fill" or not is_quiet(pair[0])]
    taken: dict[str, str] = {}
    for choices, tokens in ((_SLOTS, loud), (_SLOTS, plain), (_OVERLAYS, known)):
        for slot, fitting in choices.items():
            if slot not in taken and (key := _first(tokens, fitting)):
                taken[slot] = key
    for slot, fill in _LABELS.items():
        for token, held in plain:
            if held.role.kind == "label" and held.belongs_to == taken.get(fill):
                taken.setdefault(slot, token.key)
    for token, held in plain:
        if held.role.kind == "fill" and is_quiet(token):
            taken.setdefault("action-quiet", token.key)
        elif (
            held.role.kind == "overlay"
            and _means(token, "surface", "soft")
            and not _means(token, "modal")
        ):
            taken.setdefault("veil", token.key)
    return taken | _measures(document)


def _first(known: Sequence[tuple[Token, Guess]], choices: Iterable[_Fits]) -> str:
    """The first token that fits what a slot takes, semantic ones first, then what fits best; empty
    without one."""
    fitting = (
        (token.tier != "semantic", place, token.key)
        for place, fits in enumerate(choices)
        for token, held in known
        if fits(held.role)
    )
    return min(fitting, key=lambda match: match[:2], default=(False, 0, ""))[2]


def _means(token: Token, *meanings: str) -> bool:
    return any(not meanings_of(word).isdisjoint(meanings) for word in words_of(token.path))


def is_quiet(token: Token) -> bool:
    """Whether the name of a fill says that it stays in the background."""
    return _means(token, "quiet", "soft")


def _measures(document: Document) -> dict[str, str]:
    taken = {}
    for slot, (wanted, meaning, telling) in _MEASURES.items():
        fitting = [
            (words_of(token.path), token)
            for token in document.tokens
            if token.type == wanted and not words_for(meaning).isdisjoint(words_of(token.path))
        ]
        best = next(
            (token for word in telling.split() for words, token in fitting if word in words), None
        )
        if best is not None:
            taken[slot] = best.key
    return taken


def bound(
    document: Document, stored: Mapping[str, str], guessed: Mapping[str, str]
) -> dict[str, Token]:
    """The token of each slot: the stored binding where its token exists, else the guess."""
    keys = dict(guessed) | {
        slot: key for slot, key in stored.items() if document.token(key) is not None
    }
    return {slot: token for slot, key in keys.items() if (token := document.token(key)) is not None}
