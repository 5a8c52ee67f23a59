"""Guessing a token's tier from what it refers to."""

from __future__ import annotations

from dataclasses import replace

from prism.expressions.values import references
from prism.model.document import Tier, Token


def with_tiers(tokens: tuple[Token, ...]) -> tuple[Token, ...]:
    """Tokens with their tier guessed per group: literals raw, aliases semantic, and aliases
    mostly of semantic tokens component. Long because a group waits on others without recursion."""
    by_path = {token.path: token for token in tokens}
    members: dict[str, list[Token]] = {}
    for token in tokens:
        members.setdefault(token.group or token.path, []).append(token)
    tiers: dict[str, Tier] = {}

    def tier_of(start: str) -> Tier:
        work, inside = [start] if start not in tiers else [], set()
        while work:
            group = work[-1]
            targets_of = [
                list(references(token.values[0][1], token.type)) if token.values else []
                for token in members[group]
            ]
            targets = [
                target.group or target.path
                for paths in targets_of
                for path in paths
                if (target := by_path.get(path) or by_path.get(f"{path}.$root")) is not None
            ]
            raw = 2 * sum(not paths for paths in targets_of) >= len(targets_of)
            ahead = {target for target in targets if target not in tiers and target not in inside}
            if group not in tiers and not raw:
                inside.add(group)
                ahead.discard(group)
                if ahead:
                    work.extend(sorted(ahead))
                    continue
            above = sum(tiers.get(target, "semantic") != "raw" for target in targets)
            count = sum(map(len, targets_of))
            aliased: Tier = "component" if above * 2 > count else "semantic"
            tiers.setdefault(group, "raw" if raw else aliased)
            inside.discard(group)
            work.pop()
        return tiers[start]

    tiered = ((token, tier_of(token.group or token.path)) for token in tokens)
    return tuple(t if t.tier == tier else replace(t, tier=tier) for t, tier in tiered)
