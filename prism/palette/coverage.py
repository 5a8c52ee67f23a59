"""Coverage: what a scheme of this kind usually needs and a document lacks.

What is usual is common practice of the trade, no source. ``prism.palette.covering`` makes it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from prism.expressions.typed_input import shown_path_or_root
from prism.model import lexicon
from prism.model import slots as bindings
from prism.model.document import Document, Token
from prism.model.lexicon import words_of
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver
from prism.roles.grounds import Guess
from prism.roles.guess import guess


@dataclass(frozen=True, slots=True)
class Need:
    """Something a scheme usually has. ``words`` are sets of which a token's path must meet each;
    ``path`` is what it is called when it is made here."""

    id: str
    name: str
    why: str
    words: tuple[frozenset[str], ...]
    path: str
    make: str = "text"
    hue: float = -1.0


def _need(
    id: str, name: str, why: str, path: str, *words: frozenset[str] | str,
    make: str = "text", hue: float = -1.0,
) -> Need:  # fmt: skip
    sets = tuple(frozenset(word.split()) if isinstance(word, str) else word for word in words)
    return Need(id, name, why, sets, path, make, hue)


#: What is looked for, in the order it is listed. Hues are OKLCH degrees, common practice.
NEEDS = (
    _need("page", "page background", "Everything stands on it.", "surface.page",
          lexicon.SURFACE | lexicon.PAGE, lexicon.PAGE | {"main"}, make="page"),
    _need("card", "card background", "Cards must stand out from the page.", "surface.card",
          lexicon.SURFACE, lexicon.CARD | {"raised"}, make="card"),
    _need("text", "text", "Words must be readable.", "text.main",
          lexicon.TEXT, lexicon.MAIN, make="ink"),
    _need("muted", "muted text", "For text that supports the main text.", "text.muted",
          lexicon.TEXT, lexicon.QUIETER, make="muted"),
    _need("line", "lines", "Lines separate parts.", "line.soft",
          lexicon.LINE, make="line"),
    _need("action", "action fill", "The main action must stand out.", "action.fill",
          lexicon.ACTION | {"button"}, "fill main default base surface",
          make="action"),
    _need("focus", "focus", "Keyboard users must see where they are.", "focus.ring",
          lexicon.FOCUS, make="focus"),
    _need("success", "success", "Something went well.", "signal.success",
          lexicon.SUCCESS, make="signal", hue=150),
    _need("warning", "warning", "Something needs care.", "signal.warning",
          lexicon.WARNING, make="signal", hue=80),
    _need("error", "error", "Something went wrong.", "signal.error",
          lexicon.ERROR, make="signal", hue=25),
    _need("information", "information", "Something is worth knowing.", "signal.information",
          lexicon.INFORMATION, make="signal", hue=240),
    _need("veil", "veils", "For hover states and dialogs.", "veil.hover",
          lexicon.OVERLAY, make="veil"),
)  # fmt: skip
BY_ID: Mapping[str, Need] = {need.id: need for need in NEEDS}
_FILL = frozenset(["fill", "action", "button"])
#: Roles of fills that carry a label.
_CARRYING = (("fill", "action"), ("fill", "accent"), ("status", "fill"))
_LABEL = lexicon.TEXT | {"label", "on"}


@dataclass(frozen=True, slots=True)
class Gap:
    """A need that is not met, or not everywhere.

    ``id`` asks ``fill`` for it; ``where`` names the mode it lacks, empty where it lacks
    altogether.
    """

    id: str
    name: str
    why: str
    where: str = ""


@dataclass(frozen=True, slots=True)
class Coverage:
    """The needs that are met, each with the token that meets it, and the gaps."""

    met: tuple[tuple[Need, Token], ...]
    gaps: tuple[Gap, ...]


#: The role that meets a need where no name does by itself.
_ROLES = {
    "page": ("page", ""), "card": ("surface", ""), "text": ("text", ""), "muted": ("text", "quiet"),
    "line": ("line", ""), "action": ("fill", "action"), "focus": ("focus", ""),
    "success": ("status", "success"), "warning": ("status", "warning"),
    "error": ("status", "error"), "information": ("status", "information"), "veil": ("overlay", ""),
}  # fmt: skip


def look(
    document: Document,
    resolver: Resolver | None = None,
    guesses: Mapping[str, Guess] | None = None,
) -> Coverage:
    """What of ``NEEDS`` a document has, what it lacks, and which fills have no label. ``guesses`` are
    the roles of its tokens."""
    resolver = resolver or resolver_of(document)
    guesses = guess(document, resolver) if guesses is None else guesses
    met: list[tuple[Need, Token]] = []
    gaps: list[Gap] = []
    for need in NEEDS:
        token = meeting(document, need) or _by_role(document, need, guesses)
        if token is None:
            gaps.append(Gap(need.id, need.name, need.why))
            continue
        met.append((need, token))
        gaps += [Gap(need.id, need.name, need.why, where) for where in _lacking(resolver, token)]
    for fill in _bare_fills(document, resolver, guesses):
        path = shown_path_or_root(document, fill)
        gaps.append(Gap(f"label {fill.key}", f"label on {path}", "A fill needs a label."))
    return Coverage(tuple(met), tuple(gaps))


def meeting(document: Document, need: Need) -> Token | None:
    """The token that meets a need: semantic before component, short names before long."""
    fitting = [
        (token.tier != "semantic", len(words), position, token)
        for position, token in enumerate(document.tokens)
        if token.type == "color"
        and token.tier != "raw"
        and bindings.meets(set(words := words_of(token.path)), need.words)
    ]
    return min(fitting, key=lambda match: match[:3])[3] if fitting else None


def _by_role(document: Document, need: Need, guesses: Mapping[str, Guess]) -> Token | None:
    """The first token whose role meets a need, plain states before others."""
    kind, other = _ROLES[need.id]
    fitting = [
        (bool(role.state), position, token)
        for position, token in enumerate(document.tokens)
        if token.key in guesses
        and (role := guesses[token.key].role).kind == kind
        and (not other or other in (role.detail, role.status))
        and (kind != "text" or other or not role.detail)
    ]
    return min(fitting, key=lambda match: match[:2])[2] if fitting else None


def _lacking(resolver: Resolver, token: Token) -> list[str]:
    """Names of the modes in which a token has no color, with all other axes in their default."""
    names = []
    default = resolver.default_theme
    for i, axis in enumerate(resolver.document.axes):
        for position, mode in enumerate(axis.modes):
            theme = (*default[:i], position, *default[i + 1 :])
            if resolver.resolve(token.key, theme).color is None:
                names.append(mode.name)
    return list(dict.fromkeys(names))


def _bare_fills(
    document: Document, resolver: Resolver, guesses: Mapping[str, Guess]
) -> list[Token]:
    """Semantic fills of actions that no pairing puts a label on, or where there are no pairings no
    label belongs to, with a color in the default theme."""
    if not document.pairings:
        return _unlabelled(document, guesses)
    under = {key for pairing in document.pairings for key in pairing.backgrounds}
    fills = []
    for token in document.tokens:
        words = set(words_of(token.path))
        if token.tier != "semantic" or token.type != "color" or not words & _FILL:
            continue
        if words & (_LABEL | {"line", "quiet", "disabled"}) or token.key in under:
            continue
        if resolver.resolve(token.key, resolver.default_theme).color is not None:
            fills.append(token)
    return fills


def _unlabelled(document: Document, guesses: Mapping[str, Guess]) -> list[Token]:
    """Fills of actions, brands and statuses that no label belongs to, nor to their plain state."""
    labelled = {known.belongs_to for known in guesses.values() if known.role.kind == "label"}
    return [
        token
        for token in document.tokens
        if (known := guesses.get(token.key)) is not None
        and (known.role.kind, known.role.detail) in _CARRYING
        and known.role.state != "disabled"
        and not {token.key, known.belongs_to} & labelled
    ]
