"""Large documents that are the same for the same size: the material of the benchmarks."""

from __future__ import annotations

import random
import re
from dataclasses import replace
from pathlib import Path

from prism.model.document import Axis, Document, Mode, Pairing, Token
from prism.model.values import BASE, Condition, Expression

#: Six axes with 3 x 3 x 2 x 4 x 2 x 2 = 288 themes.
AXES = tuple(
    Axis(name, name, tuple(Mode(f"{name}{i}", f"{name} {i}") for i in range(count)), f"{name}0")
    for name, count in (
        ("appearance", 3),
        ("brand", 3),
        ("contrast", 2),
        ("status", 4),
        ("density", 2),
        ("language", 2),
    )
)
DEPTH = 6
_ROOM = Path(__file__).parent.parent / "tests" / "data" / "roles" / "three_hundred.txt"


def rooms(count: int) -> Document:
    """About ``count`` colors with names that say what they are for: twelve parts of an interface with
    their states, again and again under other groups, in two modes."""
    night = Condition.of({"look": "dark"})
    look = Axis("look", "look", (Mode("light", "light"), Mode("dark", "dark")), "light")
    made = []
    for line in _ROOM.read_text().splitlines()[1:]:
        path, light, *dark = re.split(r" = | \| | : ", line.rpartition(" : ")[0])
        values = [(BASE, Expression(light)), *((night, Expression(text)) for text in dark)]
        name = path.replace("/", ".")
        made.append(Token(name, name, "color", "semantic", tuple(values)))
    tokens: list[Token] = []
    while len(tokens) < count:
        number = len(tokens)
        tokens += [
            replace(token, key=f"{number}.{token.key}", path=f"room{number}.{token.path}")
            for token in made
            if not number or not token.path.startswith("app.")
        ]
    return Document(name="Rooms", axes=(look,), tokens=tuple(tokens[:count]))


def document(count: int, pairings: int = 0, seed: int = 1) -> Document:
    """``count`` tokens in layers, each referring to the layer below: aliases up to six deep.

    Over a third of the tokens are conditional, most on one axis, some on two; all six axes are
    used. A tenth of the values are expressions.
    """
    rng = random.Random(seed)
    layers: list[list[Token]] = [[] for _ in range(DEPTH + 1)]
    tokens = []
    for i in range(count):
        level = 0 if i < count // 7 else 1 + (i * DEPTH // count)
        level = min(level, DEPTH)
        below = layers[level - 1] if level else []
        values = {BASE: _value(rng, below)}
        if rng.random() < 0.4:
            for _ in range(rng.choice((1, 1, 2))):
                values[_condition(rng)] = _value(rng, below)
        name = f"layer {level}.group {i % 40}.token {i}"
        tier = ("raw", "semantic", "component")[min(level, 2)]
        token = Token(f"t{i}", name, "color", tier, tuple(values.items()))  # type: ignore[arg-type]
        layers[level].append(token)
        tokens.append(token)
    pairs = []
    upper = [token for layer in layers[2:] for token in layer]
    for i in range(pairings):
        foreground, background = rng.sample(upper, 2)
        pairs.append(Pairing(f"p{i}", foreground.key, (background.key,)))
    return Document(name=f"Bench {count}", axes=AXES, tokens=tuple(tokens), pairings=tuple(pairs))


def _value(rng: random.Random, below: list[Token]) -> Expression:
    if not below:
        return Expression(f"#{rng.randrange(1 << 24):06x}")
    path = rng.choice(below).path
    if rng.random() < 0.1:
        return Expression(f"color-mix(in oklab, {{{path}}} {rng.randrange(10, 90)}%, white)")
    return Expression("{" + path + "}")


def _condition(rng: random.Random) -> Condition:
    chosen = rng.sample(AXES, 2 if rng.random() < 0.15 else 1)
    return Condition.of({axis.key: rng.choice(axis.modes).key for axis in chosen})


def facts(built: Document) -> str:
    """What a document holds, for the head of a table."""
    conditional = sum(len(token.values) > 1 for token in built.tokens)
    themes = 1
    for axis in built.axes:
        themes *= len(axis.modes)
    return (
        f"{len(built.tokens):,} tokens, {conditional / len(built.tokens):.0%} conditional, "
        f"{len(built.axes)} axes, {themes} themes, aliases up to {DEPTH} deep"
    )
