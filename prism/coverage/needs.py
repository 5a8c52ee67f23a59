"""Coverage: what a scheme of this kind usually needs and a document lacks.

What is usual is common practice of the trade, no source. ``prism.palette.covering`` makes it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.expressions.typed_input import shown_path_or_root
from prism.model.document import Document, Token
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver
from prism.roles.by_slot import is_quiet
from prism.roles.grounds import Guess
from prism.roles.guess import guess
from prism.roles.lexicon import words_of


@dataclass(frozen=True, slots=True)
class Need:
    """Something a scheme usually has: the kind of role that meets it, with its detail or status, and
    what it is called when it is made here."""

    id: str
    name: str
    why: str
    kind: str
    other: str
    path: str
    make: str = "text"
    hue: float = -1.0


#: What is looked for, in the order it is listed. Hues are OKLCH degrees, common practice.
NEEDS = (
    Need("page", "page background", "Everything stands on it.",
         "page", "", "surface.page", "page"),
    Need("card", "card background", "Cards must stand out from the page.",
         "surface", "", "surface.card", "card"),
    Need("text", "text", "Words must be readable.", "text", "", "text.main", "ink"),
    Need("muted", "muted text", "For text that supports the main text.",
         "text", "quiet", "text.muted", "muted"),
    Need("line", "lines", "Lines separate parts.", "line", "", "line.soft", "line"),
    Need("action", "action fill", "The main action must stand out.",
         "fill", "action", "action.fill", "action"),
    Need("focus", "focus", "Keyboard users must see where they are.",
         "focus", "", "focus.ring", "focus"),
    Need("success", "success", "Something went well.",
         "status", "success", "signal.success", "signal", 150),
    Need("warning", "warning", "Something needs care.",
         "status", "warning", "signal.warning", "signal", 80),
    Need("error", "error", "Something went wrong.",
         "status", "error", "signal.error", "signal", 25),
    Need("information", "information", "Something is worth knowing.",
         "status", "information", "signal.information", "signal", 240),
    Need("veil", "veils", "For hover states and dialogs.", "overlay", "", "veil.hover", "veil"),
)  # fmt: skip
BY_ID: Mapping[str, Need] = {need.id: need for need in NEEDS}
#: Roles of fills that carry a label.
_CARRYING = (("fill", "action"), ("fill", "accent"), ("status", "fill"))


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
        token = meeting(document, need, guesses)
        if token is None:
            gaps.append(Gap(need.id, need.name, need.why))
            continue
        met.append((need, token))
        gaps += [Gap(need.id, need.name, need.why, where) for where in _lacking(resolver, token)]
    for fill in _bare_fills(document, resolver, guesses):
        path = shown_path_or_root(document, fill)
        gaps.append(Gap(f"label {fill.key}", f"label on {path}", "A fill needs a label."))
    return Coverage(tuple(met), tuple(gaps))


def coverage_of(analysis: Analysis) -> Coverage:
    """The coverage of all that is judged; asked for by ``Analysis.once``."""
    return look(analysis.paired, analysis.paired_resolver, analysis.roles)


def meeting(
    document: Document, need: Need, guesses: Mapping[str, Guess] | None = None
) -> Token | None:
    """The token that meets a need by its role: plain before states, semantic before others, short
    names before long."""
    if guesses is None:
        guesses = guess(document, resolver_of(document))
    fitting = [
        (bool(role.state), token.tier != "semantic", len(words_of(token.path)), position, token)
        for position, token in enumerate(document.tokens)
        if token.key in guesses
        and (role := guesses[token.key].role).kind == need.kind
        and (not need.other or need.other in (role.detail, role.status))
        and (need.id != "text" or not role.detail)
    ]
    return min(fitting, key=lambda match: match[:4])[4] if fitting else None


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
    """Fills of actions, brands and statuses, with a color in the default theme, that carry nothing:
    semantic ones on which no pairing puts anything, or where there are no pairings all to which and
    to whose plain state no label belongs. Quiet ones carry texts."""
    labelled = {known.belongs_to for known in guesses.values() if known.role.kind == "label"}
    under = {key for pairing in document.pairings for key in pairing.backgrounds}

    def is_bare(token: Token, rest: str) -> bool:
        if under:
            return token.tier == "semantic" and token.key not in under and not is_quiet(token)
        return not {token.key, rest} & labelled

    return [
        token
        for token in document.tokens
        if (known := guesses.get(token.key)) is not None
        and (known.role.kind, known.role.detail) in _CARRYING
        and known.role.state != "disabled"
        and is_bare(token, known.belongs_to)
        and resolver.resolve(token.key, resolver.default_theme).color is not None
    ]
