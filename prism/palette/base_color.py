"""The base color of a ramp as a swatch of its own, where no step is near enough to it.

It is used like any step, and stays while anything may refer to it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

from prism.changes.structure import add_tokens
from prism.model.document import Document, Ramp, Token
from prism.model.values import BASE, Expression
from prism.palette.ramps import Step

#: What it is called in the group of its ramp.
NAME = "base"


def beside(
    group: str, steps: Sequence[Step], fields: Mapping[str, str], new_key: Callable[[], str]
) -> Token | None:
    """The token of the base color, where it is to be kept and is none of the steps."""
    if fields["keep-seed"] != "yes" or any(step.is_seed for step in steps):
        return None
    value = Expression(fields["seed"])
    return Token(new_key(), f"{group}.{NAME}", "color", "raw", ((BASE, value),))


def kept_up(
    document: Document,
    ramp: Ramp,
    steps: Sequence[Step],
    fields: Mapping[str, str],
    new_key: Callable[[], str],
) -> Document:
    """The document with the base color of a retuned ramp beside its steps, where it is none of
    them; one that is there already takes the color that it has now."""
    known = document.token(ramp.base) if ramp.base else None
    if known is not None:
        values = dict(known.values) | {BASE: Expression(fields["seed"])}
        fresh = replace(known, values=tuple(values.items()))
        tokens = tuple(fresh if token is known else token for token in document.tokens)
        return replace(document, tokens=tokens)
    base = beside(ramp.name, steps, fields, new_key)
    if base is None:
        return document
    while document.token_at(base.path) is not None:
        base = replace(base, path=f"{base.path}-color")
    added = add_tokens(document, [base], after=ramp.steps[-1])
    other = replace(ramp, base=base.key)
    ramps = tuple(other if known.key == ramp.key else known for known in added.ramps)
    return replace(added, ramps=ramps)
