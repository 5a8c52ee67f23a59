"""The page of a token: where it is used, what else lands where it does, what a value comes to."""

from __future__ import annotations

from dataclasses import dataclass

from prism.tokens.expressions import references
from prism.tokens.model import Condition, Document, Pairing, Token
from prism.tokens.names import css_names
from prism.tokens.resolve import Resolver, Theme
from prism.tokens.resolved import Answer


@dataclass(frozen=True, slots=True)
class TokenPage:
    """What a token's page shows beside what the token says of itself."""

    users: tuple[Token, ...]
    pairings: tuple[Pairing, ...]
    scenes: tuple[str, ...]
    css_name: str
    own_export_name: str


def page(resolver: Resolver, token: Token) -> TokenPage:
    """Where a token is used: tokens that refer to it, pairings and scenes."""
    document = resolver.document
    users = tuple(
        other
        for other in document.tokens
        if any(
            document.token_at(path) is token
            for _, value in other.values
            for path in references(value, other.type)
        )
    )
    pairings = tuple(
        one
        for one in document.pairings
        if token.key in (one.foreground, *one.backgrounds, one.page)
    )
    scenes = tuple(
        scene.name
        for scene in document.scenes
        if any(key == token.key for _, key in scene.bindings)
    )
    name = css_names(document).get(token.key, "")
    return TokenPage(users, pairings, scenes, name, dict(token.export_names).get("css", ""))


def landing_beside(resolver: Resolver, key: str, theme: Theme, limit: int = 12) -> list[Token]:
    """Other tokens that land on the raw token where this one does in a theme."""
    hops = resolver.trace(key, theme)
    end = hops[-1].token
    if end == key:
        return []
    found = [
        other
        for other in resolver.document.tokens
        if other.key not in (key, end)
        and other.tier != "raw"
        and any(hop.token == end for hop in resolver.trace(other.key, theme))
    ]
    return found[:limit]


def result(document: Document, key: str, condition: Condition, theme: Theme) -> Answer:
    """What a token comes to in ``theme`` with the modes of ``condition``."""
    resolver = Resolver(document)
    picks = resolver.picks(theme) | dict(condition.picks)
    return resolver.resolve(key, resolver.theme(picks))
