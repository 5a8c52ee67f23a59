"""Which tokens the sheet shows: by words, type, tier, group and state."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.errors import ExpressionError
from prism.expressions.values import leaves, parse
from prism.model.document import Document, Token
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver, Theme
from prism.roles.role import KINDS

#: What a state asks for, in the order it is offered.
STATES = {
    "literal": "raw literals",
    "broken": "broken",
    "failing": "a pairing fails",
    "unused": "unused",
    "unsure": "role not sure",
    "changed": "changed since",
}


@dataclass(frozen=True, slots=True)
class Filter:
    """What is asked for; empty members ask for nothing. ``changed`` are the keys that count as
    changed."""

    words: str = ""
    type: str = ""
    tier: str = ""
    group: str = ""
    role: str = ""
    state: str = ""
    changed: frozenset[str] = frozenset()

    @property
    def asks(self) -> bool:
        """Whether anything is asked for."""
        return any((self.words, self.type, self.tier, self.group, self.role, self.state))


def choose(analysis: Analysis, asked: Filter, themes: Collection[Theme]) -> list[Token]:
    """The tokens that a filter lets through, in document order; ``themes`` are those shown."""
    document, resolver = analysis.document, analysis.paired_resolver
    words = asked.words.lower().split()
    found_by = analysis.found_by if words else {}
    tokens = [
        token
        for token in document.tokens
        if all(word in found_by[token.key] for word in words)
        and asked.type in ("", token.type)
        and asked.tier in ("", token.tier)
        and (not asked.group or token.within(asked.group))
        and (not asked.role or _kind(analysis, token) == asked.role)
    ]
    if asked.state == "literal":
        return [token for token in tokens if token.tier != "raw" and _literal(token)]
    if asked.state == "broken":
        return [
            token
            for token in tokens
            if any(resolver.resolve(token.key, at).broken for at in themes)
        ]
    if asked.state == "failing":
        keys = _failing(resolver, themes)
        return [token for token in tokens if token.key in keys]
    if asked.state == "unused":
        used = _used(document)
        return [token for token in tokens if token.key not in used]
    if asked.state == "unsure":
        guesses = analysis.roles
        return [t for t in tokens if t.key in guesses and not guesses[t.key].is_sure]
    if asked.state == "changed":
        return [token for token in tokens if token.key in asked.changed]
    return tokens


def _kind(analysis: Analysis, token: Token) -> str:
    """The kind of a token's role; empty where it has none."""
    known = analysis.roles.get(token.key)
    return known.role.kind if known is not None else ""


def kinds(analysis: Analysis) -> list[str]:
    """The kinds of roles that some token has."""
    present = {known.role.kind for known in analysis.roles.values()}
    return [kind for kind in KINDS if kind in present]


def _literal(token: Token) -> bool:
    """Whether one of a token's values is written out rather than referred to."""
    for _, value in token.values:
        for expression, expected in leaves(value, token.type):
            try:
                if not parse(expression.text, expected).references:
                    return True
            except ExpressionError:
                continue
    return False


def _failing(resolver: Resolver, themes: Collection[Theme]) -> set[str]:
    pairings = {pairing.key: pairing for pairing in resolver.document.pairings}
    readings = audit(resolver, pairings.values(), list(themes))
    return {pairings[reading.pairing].foreground for reading in readings if reading.fails}


def _used(document: Document) -> set[str]:
    """Tokens that another token, a pairing or a binding refers to."""
    used: set[str] = set()
    for token in document.tokens:
        for _, value in token.values:
            for expression, expected in leaves(value, token.type):
                try:
                    paths = parse(expression.text, expected).references
                except ExpressionError:
                    continue
                for path in paths:
                    target = document.token_at(path)
                    if target is not None:
                        used.add(target.key)
    for pairing in document.pairings:
        used |= {pairing.foreground, *pairing.backgrounds, pairing.page}
    for scene in document.scenes:
        used |= {key for _, key in scene.bindings}
    return used
