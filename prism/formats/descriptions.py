"""Descriptions and deprecations of tokens, kept up in the lines of their files."""

from __future__ import annotations

from collections import defaultdict

from prism.formats import design_tokens
from prism.formats.layout import Layout, Slot


def describe(layout: Layout) -> None:
    """Update ``$description`` and ``$deprecated`` where they have changed."""
    slots: dict[str, list[Slot]] = defaultdict(list)
    for layer in sorted(layout.layers, key=lambda layer: bool(layer.axis)):
        for key in [*layer.sources, *(k for _, keys in layer.contexts for k in keys)]:
            for slot in layout.trees[key].slots:
                if slot.token:
                    slots[slot.token].append(slot)
    for token in layout.document.tokens:
        mine = slots.get(token.key, [])
        if not mine:
            continue
        description = next(
            (s.members["$description"] for s in mine if s.members.get("$description")), ""
        )
        if description != token.description:
            for slot in mine:
                slot.members.pop("$description", None)
            if token.description:
                mine[0].members["$description"] = token.description
        marks = [d for s in mine if (d := design_tokens.deprecation(s.members)) is not None]
        if (marks[0] if marks else None) != token.deprecated:
            for slot in mine:
                slot.members.pop("$deprecated", None)
            if token.deprecated is not None:
                mine[0].members["$deprecated"] = token.deprecated or True
