"""Edits to ramps: made, retuned, adopted, stepped, veiled. Pure functions, as all edits.

A ramp is a group of raw color tokens, its steps; its recipe stands in its parameters. References
follow every change, so that nothing that used a step loses its color for a name's sake.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

from prism.changes.merging import merge_tokens
from prism.changes.references import check_path
from prism.changes.structure import (
    add_tokens,
    moved,
    rename_group,
    rename_tokens,
    reorder_tokens,
    replace_references,
)
from prism.color import space
from prism.errors import EditError
from prism.expressions.typed_input import shown_path_or_root
from prism.model.document import Document, Ramp, Token
from prism.model.values import BASE, Expression
from prism.palette import base_color, ramps, recipes
from prism.palette.alike import alike, colors, lights, match
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver

NewKey = Callable[[], str]


def ramp_of(document: Document, key: str) -> Ramp:
    """The ramp with ``key``; ``EditError`` where there is none."""
    ramp = document.ramp(key)
    if ramp is None:
        raise EditError("That ramp is no longer there.")
    return ramp


def ramp_with(document: Document, token: str) -> Ramp | None:
    """The ramp that a token is a step of, or None."""
    return next((ramp for ramp in document.ramps if token in ramp.steps), None)


def add_ramp(
    document: Document,
    name: str,
    fields: Mapping[str, str],
    new_key: NewKey,
    *,
    names: str = "",
    purpose: str = "",
) -> Document:
    """A new ramp behind the last raw color, its steps named by ``names`` or numbered."""
    name = name.strip()
    if not name:
        raise EditError("A ramp needs a name.", fix="Name it after what it is, such as spruce.")
    check_path(name)
    _free(document, name)
    kept = recipes.complete(fields)
    steps = ramps.make(recipes.read(kept))
    tokens = [
        step_token(new_key(), f"{name}.{step}", text)
        for step, text in zip(
            recipes.step_names(names, len(steps)),
            step_texts(steps, dict(kept)["seed"]),
            strict=True,
        )
    ]
    base = base_color.beside(name, steps, dict(kept), new_key)
    ramp = Ramp(
        new_key(),
        name,
        tuple(token.key for token in tokens),
        purpose,
        kept,
        base=base.key if base else "",
    )
    fresh = [*tokens, *([base] if base else [])]
    changed = add_tokens(document, fresh, after=last_raw_color(document))
    if not any(token.is_raw_color for token in document.tokens):
        changed = reorder_tokens(changed, ramp.steps)
    return replace(changed, ramps=(*changed.ramps, ramp))


def retune(
    document: Document, key: str, fields: Mapping[str, str], new_key: NewKey, *, names: str = ""
) -> Document:
    """Make a ramp again from other parameters.

    Each old step becomes the new step nearest in lightness and takes its name; what has no
    place any more is merged into its nearest. Steps moved by hand keep their color.
    """
    ramp = ramp_of(document, key)
    recipe = recipes.complete(fields)
    steps = ramps.make(recipes.read(recipe))
    if not names and len(steps) == len(ramp.steps):
        names = " ".join(leaf(document, step) for step in ramp.steps)
        names = names if len(names.split()) == len(steps) else ""
    paths = [f"{ramp.name}.{name}" for name in recipes.step_names(names, len(steps))]
    texts = step_texts(steps, dict(recipe)["seed"])
    matched = match(lights(document, ramp.steps), [ramps.oklch(step.color)[0] for step in steps])
    places = {ramp.steps[old]: new for old, new in matched.items()}
    changed = _placed(document, ramp, places, paths)
    fresh = {
        new: step_token(new_key(), paths[new], texts[new])
        for new in range(len(steps))
        if new not in places.values()
    }
    changed = add_tokens(changed, list(fresh.values()), after=next(iter(places)))
    keys = {new: old for old, new in places.items()} | {n: t.key for n, t in fresh.items()}
    order = tuple(keys[new] for new in range(len(steps)))
    values = {step: texts[new] for new, step in keys.items() if step not in ramp.moved}
    tokens = tuple(
        _with_base(token, values[token.key]) if token.key in values else token
        for token in changed.tokens
    )
    moved = tuple(step for step in ramp.moved if step in order)
    retuned = replace(ramp, steps=order, parameters=recipe, moved=moved)
    tuned = in_order(put(replace(changed, tokens=tokens), retuned), order)
    return base_color.kept_up(tuned, retuned, steps, dict(recipe), new_key)


def _placed(
    document: Document, ramp: Ramp, places: Mapping[str, int], paths: Sequence[str]
) -> Document:
    """The document with the steps that keep a place under their paths; the others are merged into
    their nearest."""
    changed = document
    for step in ramp.steps:
        if step not in places:
            changed = merge_tokens(changed, nearest(document, step, list(places)), step)
    renamed = {}
    for step, new in places.items():
        token = changed.token(step)
        assert token is not None
        if paths[new] != token.path:
            renamed[token.path] = paths[new]
    return rename_tokens(changed, renamed)


def adopt(document: Document, group: str, new_key: NewKey, *, purpose: str = "") -> Document:
    """Let the raw colors of a group stand as a ramp, as they are."""
    steps = tuple(
        token.key for token in document.tokens if token.is_raw_color and token.group == group
    )
    if not steps:
        raise EditError(f"There are no raw colors in “{group}”.")
    taken = {step for ramp in document.ramps for step in ramp.steps}
    if taken & set(steps):
        raise EditError("These colors are a ramp already.")
    ramp = Ramp(new_key(), group, steps, purpose)
    return replace(document, ramps=(*document.ramps, ramp))


def proposed(document: Document, ramp: Ramp) -> dict[str, str]:
    """The fields to start retuning from: its own, or a guess for a ramp without a recipe.

    The guess takes the most colorful step as its seed.
    """
    if ramp.parameters:
        return dict(ramp.parameters)
    shown = [color for color in colors(document, ramp.steps) if color is not None]
    if not shown:
        return dict(recipes.complete({"count": str(max(len(ramp.steps), 1))}))
    seed = max(shown, key=lambda color: ramps.oklch(color)[1])
    gamut = "srgb" if space.in_gamut(seed, "srgb") else "display-p3"
    opaque = replace(space.fit(seed, gamut), alpha=1.0)
    fields = {"seed": space.css_text(opaque), "count": str(len(ramp.steps)), "gamut": gamut}
    return dict(recipes.complete(fields))


def rename_ramp(document: Document, key: str, name: str) -> Document:
    """Give a ramp another name; its steps' paths and all references follow."""
    ramp = ramp_of(document, key)
    if not name.strip():
        raise EditError("A ramp needs a name.")
    if name == ramp.name:
        return document
    _free(document, name)
    if not ramp.name:
        raise EditError("Single colors have names of their own.", fix="Rename each of them.")
    return rename_group(document, ramp.name, name.strip())


def move_ramp(document: Document, key: str, by: int) -> Document:
    """Move a ramp ``by`` places among those of its purpose."""
    ramp = ramp_of(document, key)
    order = iter(
        moved([other for other in document.ramps if other.purpose == ramp.purpose], ramp, by)
    )
    there = (next(order) if other.purpose == ramp.purpose else other for other in document.ramps)
    return replace(document, ramps=tuple(there))


def veils(
    document: Document, token: str, shares: Sequence[int], group: str, new_key: NewKey
) -> Document:
    """Translucent veils of a color, one for each share in percent, that follow the color."""
    color = document.token(token)
    if color is None or color.type != "color":
        raise EditError("That color is no longer there.")
    if not shares or any(not 1 <= share <= 99 for share in shares):
        raise EditError(
            "An overlay covers 1 to 99 percent.", fix="Write percentages such as 8 16 50."
        )
    path = shown_path_or_root(document, color)
    made = [
        step_token(new_key(), f"{group}.{share:02d}", f"rgb(from {{{path}}} r g b / {share}%)")
        for share in dict.fromkeys(shares)
    ]
    return add_tokens(document, made, after=last_raw_color(document))


def replace_ramp(document: Document, old: str, new: str) -> Document:
    """Let everything that refers to a step of one ramp refer to the like step of another.

    Steps are alike by their place where both ramps have as many, else by their lightness.
    """
    first, second = ramp_of(document, old), ramp_of(document, new)
    return replace_references(document, alike(document, first.steps, second.steps))


def leaf(document: Document, key: str) -> str:
    """The last segment of a token's path."""
    token = document.token(key)
    return "" if token is None else token.leaf


def last_raw_color(document: Document) -> str:
    """The key of the last raw color, behind which new ones stand; empty where there is none."""
    raw = [token.key for token in document.tokens if token.is_raw_color]
    return raw[-1] if raw else ""


def _free(document: Document, name: str) -> None:
    taken = any(token.within(name) for token in document.tokens)
    if taken:
        raise EditError(f"“{name}” already exists.", fix="Choose another name.")


def free_name(document: Document, wanted: str) -> str:
    """``wanted``, or the first of it with a number behind that no token and no group has."""
    taken = {token.path.removesuffix(".$root") for token in document.tokens}
    taken |= {group for token in document.tokens for group in _groups(token.path)}
    name, number = wanted, 2
    while name in taken:
        name, number = f"{wanted} {number}", number + 1
    return name


def _groups(path: str) -> list[str]:
    parts = path.split(".")
    return [".".join(parts[:end]) for end in range(1, len(parts))]


def is_of_palette(resolver: Resolver, token: Token) -> bool:
    """Whether a token is a color of the palette: raw, and made of raw ones alone."""
    if not token.is_raw_color:
        return False
    made_of = (resolver.document.token(key) for key in resolver.graph.reach([token.key]))
    return all(part is None or part.tier == "raw" for part in made_of)


def raw_color(document: Document, text: str, name: str, new_key: NewKey) -> tuple[Document, Token]:
    """The raw token that is exactly this color in every theme, made where there is none.

    ``name`` is what it is called then, made free where it is taken.
    """
    resolver = resolver_of(document)
    wanted = space.parse_function(text)
    for token in document.tokens:
        if is_of_palette(resolver, token) and not resolver.influence(token.key):
            held = resolver.resolve(token.key, resolver.default_theme).color
            if held is not None and _same(held, wanted):
                return document, token
    made = step_token(new_key(), free_name(document, name), text)
    return add_tokens(document, [made], after=last_raw_color(document)), made


def _same(color: space.Color, other: space.Color) -> bool:
    if space.css_text(color) == space.css_text(other):
        return True
    inside = all(space.in_gamut(side, "srgb") for side in (color, other))
    return inside and space.rgba8(color) == space.rgba8(other)


def step_token(key: str, path: str, text: str) -> Token:
    """A raw color token that holds ``text`` in every theme."""
    return Token(key, path, "color", "raw", ((BASE, Expression(text)),))


def step_texts(steps: Sequence[ramps.Step], seed: str) -> list[str]:
    """The steps as they are stored; the seed as it was typed."""
    return [seed if step.is_seed else space.css_text(step.color) for step in steps]


def nearest(document: Document, token: str, others: Sequence[str]) -> str:
    """The one of ``others`` that is nearest to a token in lightness, by key."""
    (light,) = lights(document, [token])
    there = lights(document, others)
    return min(zip(others, there, strict=True), key=lambda pair: abs(pair[1] - light))[0]


def _with_base(token: Token, text: str) -> Token:
    values = dict(token.values)
    values[BASE] = Expression(text)
    return replace(token, values=tuple(values.items()))


def put(document: Document, ramp: Ramp) -> Document:
    """The document with ``ramp`` in place of the one of its key."""
    return replace(
        document, ramps=tuple(ramp if known.key == ramp.key else known for known in document.ramps)
    )


def in_order(document: Document, steps: Sequence[str]) -> Document:
    """Let the steps stand together in the document, in their order, where the first stood."""
    wanted = set(steps)
    before = ""
    for token in document.tokens:
        if token.key in wanted:
            break
        before = token.key
    return reorder_tokens(document, list(steps), before)
