"""Edits to single steps of a ramp: released, inserted, dropped, named, moved. Pure functions."""

from __future__ import annotations

from dataclasses import replace

from prism.changes.merging import merge_tokens
from prism.changes.references import check_path
from prism.changes.structure import add_tokens, moved, rename_token, rename_tokens
from prism.changes.values import set_value
from prism.color import space
from prism.errors import EditError
from prism.model.document import Document, Ramp
from prism.model.values import BASE, Expression
from prism.palette import ramps, recipes
from prism.palette.alike import colors
from prism.palette.ramp_edits import (
    NewKey,
    in_order,
    nearest,
    put,
    ramp_of,
    ramp_with,
    step_texts,
    step_token,
)


def release(document: Document, token: str) -> Document:
    """Put a step that was moved by hand back where its recipe has it."""
    ramp = ramp_with(document, token)
    if ramp is None or token not in ramp.moved:
        raise EditError("That step was not moved by hand.")
    steps = ramps.make(recipes.read(ramp.parameters))
    if len(steps) != len(ramp.steps):
        raise EditError("The steps of the ramp differ from its recipe.", fix="Retune it first.")
    text = step_texts(steps, dict(ramp.parameters)["seed"])[ramp.steps.index(token)]
    changed = set_value(document, token, BASE, Expression(text))
    return put(changed, replace(ramp, moved=tuple(key for key in ramp.moved if key != token)))


def insert_step(document: Document, after: str, name: str, new_key: NewKey) -> Document:
    """A new step between the step ``after`` and the next one, of the color half way."""
    ramp = ramp_with(document, after)
    if ramp is None:
        raise EditError("That step is no longer there.")
    place = ramp.steps.index(after)
    if place + 1 == len(ramp.steps):
        raise EditError("There is no step after the last one.", fix="Choose another step.")
    pair = colors(document, ramp.steps[place : place + 2])
    if pair[0] is None or pair[1] is None:
        raise EditError("One of the two steps has no color.")
    text = _half_way(ramp, place, (pair[0], pair[1]))
    check_path(name)
    token = step_token(new_key(), f"{ramp.name}.{name}" if ramp.name else name, text)
    changed = add_tokens(document, [token], after=after)
    fields = dict(ramp.parameters)
    if fields:
        targets = ramps.targets_of(recipes.read(fields))
        fields["count"] = str(len(ramp.steps) + 1)
        if fields["method"] == "anchored":
            between = (targets[place] * targets[place + 1]) ** 0.5
            longer = (*targets[: place + 1], between, *targets[place + 1 :])
            fields["targets"] = recipes.numbers_text(longer)
    steps = (*ramp.steps[: place + 1], token.key, *ramp.steps[place + 1 :])
    return put(changed, replace(ramp, steps=steps, parameters=tuple(fields.items())))


def drop_step(document: Document, token: str) -> Document:
    """Take a step out; what refers to it refers to its nearest neighbor."""
    ramp = ramp_with(document, token)
    if ramp is None:
        raise EditError("That step is no longer there.")
    if len(ramp.steps) == 1:
        raise EditError("It is the ramp’s only step.")
    place = ramp.steps.index(token)
    beside = [*ramp.steps[max(place - 1, 0) : place], *ramp.steps[place + 1 : place + 2]]
    fields = dict(ramp.parameters)
    if fields:
        targets = ramps.targets_of(recipes.read(fields))
        fields["count"] = str(len(ramp.steps) - 1)
        if fields["method"] == "anchored":
            fields["targets"] = recipes.numbers_text(targets[:place] + targets[place + 1 :])
    changed = merge_tokens(document, nearest(document, token, beside), token)
    kept = ramp_of(changed, ramp.key)
    return put(changed, replace(kept, parameters=tuple(fields.items())))


def rename_step(document: Document, token: str, name: str) -> Document:
    """Give a step another name; references follow."""
    color = document.token(token)
    if color is None:
        raise EditError("That step is no longer there.")
    return rename_token(document, token, f"{color.group}.{name}" if color.group else name)


def rename_steps(document: Document, key: str, names: str) -> Document:
    """Name all steps of a ramp, by a list or by numbers; references follow."""
    ramp = ramp_of(document, key)
    names_read = recipes.step_names(names, len(ramp.steps))
    moved = {}
    for step, name in zip(ramp.steps, names_read, strict=True):
        token = document.token(step)
        assert token is not None
        moved[token.path] = f"{token.group}.{name}" if token.group else name
    return rename_tokens(document, moved)


def move_step_in_order(document: Document, token: str, by: int) -> Document:
    """Move a step ``by`` places along its ramp, in the ramp and in the document."""
    ramp = ramp_with(document, token)
    if ramp is None:
        raise EditError("That step is no longer there.")
    order = moved(ramp.steps, token, by)
    return in_order(put(document, replace(ramp, steps=order)), order)


def _half_way(ramp: Ramp, place: int, pair: tuple[space.Color, space.Color]) -> str:
    first, second = (space.engine(color) for color in pair)
    mixed = space.from_engine(first.mix(second, 0.5, space="oklab"))
    wide = dict(ramp.parameters).get("gamut") == "display-p3"
    if wide or mixed.alpha < 1:
        return space.css_text(space.fit(mixed, "display-p3" if wide else "srgb"))
    return space.hex_text(mixed)
