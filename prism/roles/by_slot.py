"""The tokens that the slots of a scene take by what they are for."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence

from prism.expressions.evaluation import Quantity
from prism.model.document import Document, Token
from prism.resolution.current import resolver_of
from prism.roles.grounds import Guess
from prism.roles.lexicon import meanings_of, words_for, words_of
from prism.roles.role import STATES, Role

_Fits = Callable[[Role], bool]
#: The scenes that ship, by id.
SCENES = ("departures", "booking", "wallet", "crew", "notice", "parts")


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


def _tint(status: str) -> tuple[_Fits, ...]:
    return (lambda role: (role.kind, role.detail, role.status) == ("status", "tint", status),)


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
    "inverse": (_is("surface", "inverse"),),
    "inverse-ink": (_is("text", "inverse"),),
    "field-line": (_is("line", "control"), _is("line", "strong"), _is("line")),
    "go-tint": _tint("success"),
    "wait-tint": _tint("warning"),
    "stop-tint": _tint("error"),
    "note-tint": _tint("information"),
    "shade": (lambda role: role.kind == "overlay" and not role.state,),
}
#: Slots of states of a fill: the slot at rest and the state.
_STATES = {f"action-{state}": ("action", state) for state in STATES if state != "focus"}
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
    "lift-high": ("shadow", "shadow", "floating modal overlay dialog large lg"),
    "pad": ("dimension", "space", "part card panel inset medium md base"),
    "pad-page": ("dimension", "space", "page screen section large lg"),
    "pad-control": ("dimension", "space", "control button field input small sm"),
    "size": ("dimension", "text", "body text base medium md"),
    "size-small": ("dimension", "text", "small caption hint sm"),
    "size-head": ("dimension", "text", "head heading title headline large lg"),
    "font": ("fontFamily", "text", "body text base sans ui"),
}
#: What the name of a token of a kind says where it tells what it is.
_NAMED_AS = {
    "text": ("text", "link", "hint"),
    "line": ("line",),
    "surface": ("surface", "page", "card", "raised", "floating", "modal", "sunken"),
}
#: Words for how far something extends, which is no size of a part.
_EXTENTS = frozenset(
    ("width", "height", "max", "min", "breakpoint", "container", "screen", "viewport")
)
#: Pixels of the units that are measured here, and between how many of them what a slot takes may lie. Common practice,
#: no source.
_PIXELS = {"px": 1.0, "rem": 16.0, "em": 16.0, "pt": 4 / 3}
_BETWEEN = {"radius": (0, 100), "gap": (0, 160), "pad": (0, 160), "size": (7, 120)}
#: Words for sizes of text in names, beside those for text.
_TEXT_WORDS = frozenset(("type", "font", "size", "text"))
_CHART = ("chart-1", "chart-2", "chart-3", "chart-4")
#: All slots that the shipped scenes use, in the order they are listed; copies and what is shown are called by name.
SLOTS = (
    *_SLOTS, *_STATES, *_OVERLAYS, *_LABELS, "action-label-disabled", "action-quiet", "link-hover", *_CHART,
    *_MEASURES,
)  # fmt: skip


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
    taken |= _states(known, taken)
    return taken | _measures(document) | _named(document)


def _states(known: Sequence[tuple[Token, Guess]], taken: Mapping[str, str]) -> dict[str, str]:
    """What states of fills and links take, and the series of charts."""
    states: dict[str, str] = {}
    for token, held in known:
        role = held.role
        if role.kind == "fill" and held.belongs_to:
            for slot, (rest, state) in _STATES.items():
                if role.state == state and held.belongs_to == taken.get(rest):
                    states.setdefault(slot, token.key)
        elif role.kind == "label" and role.state == "disabled":
            states.setdefault("action-label-disabled", token.key)
        elif (role.kind, role.detail, role.state) == ("text", "link", "hover"):
            states.setdefault("link-hover", token.key)
    charts = [token.key for token, held in known if held.role.kind == "chart"]
    instead = [taken[slot] for slot in ("action", "highlight", "note", "go") if slot in taken]
    return states | dict(zip(_CHART, charts or instead, strict=False))


def _named(document: Document) -> dict[str, str]:
    """Texts and what is shown, by the last word of their names: ``copy-departures``, ``show-map``."""
    starts = {"string": "copy", "boolean": "show"}
    return {
        f"{starts[token.type]}-{words[-1]}": token.key
        for token in document.tokens
        if token.type in starts and (words := words_of(token.path))
    }


def _first(known: Sequence[tuple[Token, Guess]], choices: Iterable[_Fits]) -> str:
    """The first token that fits what a slot takes: those come first whose names tell that, then semantic ones, then what
    fits best; empty without one."""
    fitting = (
        ((_is_less_telling(token, held.role), token.tier != "semantic", place), token.key)
        for place, fits in enumerate(choices)
        for token, held in known
        if fits(held.role)
    )
    return min(fitting, key=lambda match: match[0], default=((), ""))[1]


def _is_less_telling(token: Token, role: Role) -> bool:
    """Whether the name of a text, a line or a surface does not say that it is one, or says that it is of a button or
    another part alone, or stands on what is called a contrast."""
    if "contrast" in words_of(token.path):
        return True
    named = _NAMED_AS.get(role.kind)
    return named is not None and (not _means(token, *named) or _means(token, "button", "tooltip"))


def _means(token: Token, *meanings: str) -> bool:
    return any(not meanings_of(word).isdisjoint(meanings) for word in words_of(token.path))


def is_quiet(token: Token) -> bool:
    """Whether the name of a fill says that it stays in the background. A word that only says surface, as ``bg``, does
    not."""
    meanings = map(meanings_of, words_of(token.path))
    return any(not m.isdisjoint(("quiet", "soft")) and "surface" not in m for m in meanings)


def _words(meaning: str) -> frozenset[str]:
    return words_for(meaning) | (_TEXT_WORDS if meaning == "text" else frozenset())


def _measures(document: Document) -> dict[str, str]:
    taken = {}
    for slot, (wanted, meaning, telling) in _MEASURES.items():
        fitting = [
            (words_of(token.path), token)
            for token in document.tokens
            if token.type == wanted
            and not _words(meaning).isdisjoint(words_of(token.path))
            and _is_plausible(document, slot, token)
        ]
        general = [(words, token) for words, token in fitting if token.tier != "component"]
        best = next(
            (
                token
                for tokens in (general, fitting)
                for word in telling.split()
                for words, token in tokens
                if word in words
            ),
            fitting[0][1] if wanted == "shadow" and fitting else None,
        )
        if best is not None:
            taken[slot] = best.key
    return taken


def _is_plausible(document: Document, slot: str, token: Token) -> bool:
    """Whether a measure can be that of a slot: no width or breakpoint, and about as large as such a thing is on a
    screen."""
    if token.type != "dimension":
        return True
    if not _EXTENTS.isdisjoint(words_of(token.path)):
        return False
    resolver = resolver_of(document)
    amount = resolver.resolve(token.key, resolver.default_theme).value
    if not isinstance(amount, Quantity) or amount.unit not in _PIXELS:
        return True
    start = slot.split("-")[0]
    least, most = _BETWEEN[start]
    return least <= amount.number * _PIXELS[amount.unit] <= most


def bound(
    document: Document, stored: Mapping[str, str], guessed: Mapping[str, str]
) -> dict[str, Token]:
    """The token of each slot: the stored binding where its token exists, else the guess."""
    keys = dict(guessed) | {
        slot: key for slot, key in stored.items() if document.token(key) is not None
    }
    return {slot: token for slot, key in keys.items() if (token := document.token(key)) is not None}
