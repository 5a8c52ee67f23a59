"""Guessing a token's tier from what it refers to."""

from __future__ import annotations

from dataclasses import replace

from prism.tokens.expressions import references
from prism.tokens.model import Tier, Token


def with_tiers(tokens: tuple[Token, ...]) -> tuple[Token, ...]:
    """Tokens with their tier guessed per group: literals raw, aliases semantic, and aliases
    mostly of semantic tokens component."""
    by_path = {token.path: token for token in tokens}
    members: dict[str, list[Token]] = {}
    for token in tokens:
        members.setdefault(token.group or token.path, []).append(token)
    tiers: dict[str, Tier] = {}

    def tier_of(group: str, inside: tuple[str, ...]) -> Tier:
        if group in tiers:
            return tiers[group]
        if group in inside:
            return "semantic"
        targets: list[str] = []
        literals = 0
        for token in members[group]:
            found = list(references(token.values[0][1], token.type)) if token.values else []
            literals += not found
            targets.extend(found)
        if literals * 2 >= len(members[group]):
            found_tier: Tier = "raw"
        else:
            above = 0
            for path in targets:
                target = by_path.get(path) or by_path.get(f"{path}.$root")
                if target is not None:
                    above += tier_of(target.group or target.path, (*inside, group)) != "raw"
            found_tier = "component" if above * 2 > len(targets) else "semantic"
        tiers[group] = found_tier
        return found_tier

    tiered = ((token, tier_of(token.group or token.path, ())) for token in tokens)
    return tuple(t if t.tier == tier else replace(t, tier=tier) for t, tier in tiered)
