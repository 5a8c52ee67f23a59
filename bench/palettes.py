"""Products with a palette, surfaces in levels, texts and fills with their states, for the solver: the same for
the same size."""

from __future__ import annotations

import itertools
import random
from functools import lru_cache

from prism.color import space
from prism.model.document import Axis, Document, Mode, Pairing, Ramp, Token
from prism.model.values import BASE, Condition, Expression
from prism.palette import ramps
from prism.palette.course import Recipe

_HUES = 10
_STATES = (".$root", ".hover", ".pressed")


@lru_cache(maxsize=64)
def _colors(hue: int) -> tuple[str, ...]:
    chroma = 0.012 if hue == 0 else 0.12
    seed = space.fit(space.Color("oklch", (0.5, chroma, hue * 360 / _HUES), 1.0), "srgb")
    made = ramps.make(Recipe(seed))
    return tuple(space.hex_text(step.color) for step in made)


def product(semantic: int, pairings: int, brands: int, contrasts: int, seed: int = 1) -> Document:
    """About ``semantic`` tokens that stand on ramps of eleven steps, with so many pairings, in ``brands``
    x ``contrasts`` themes of one light mode."""
    rng = random.Random(seed)
    axes = (
        Axis("appearance", "appearance", (Mode("light", "light", color_scheme="light"),), "light"),
        Axis("brand", "brand", tuple(Mode(f"b{i}", f"b{i}") for i in range(brands)), "b0"),
        Axis("contrast", "contrast", tuple(Mode(f"c{i}", f"c{i}") for i in range(contrasts)), "c0"),
    )
    tokens: list[Token] = []
    made_ramps: list[Ramp] = []
    for hue in range(_HUES):
        name = "ink" if hue == 0 else f"hue{hue}"
        for step, text in enumerate(_colors(hue), 1):
            path = f"{name}.{step}"
            tokens.append(Token(path, path, "color", "raw", ((BASE, Expression(text)),)))
        steps = tuple(f"{name}.{step}" for step in range(1, 12))
        made_ramps.append(Ramp(name, name, steps=steps, purpose="ink" if hue == 0 else "brand"))
    tokens.append(Token("white", "white", "color", "raw", ((BASE, Expression("#ffffff")),)))
    pairs: list[Pairing] = []

    def add(path: str, text: str, others: dict[Condition, str] | None = None) -> str:
        values = [(BASE, Expression(text))]
        values += [(at, Expression(value)) for at, value in (others or {}).items()]
        tokens.append(Token(path, path, "color", "semantic", tuple(values)))
        return path

    def pair(above: str, below: str, required: float) -> None:
        if len(pairs) < pairings:
            pairs.append(Pairing(f"p{len(pairs)}", above, (below,), "text", required))

    add("surface.page", "{ink.1}")
    surfaces = ["surface.page", *(add(f"surface.{level}", "{white}") for level in range(1, 7))]
    raised = [Condition.of({"contrast": f"c{i}"}) for i in range(1, contrasts)]
    count = len(surfaces)
    for number in itertools.count():
        if count >= semantic:
            break
        ramp = rng.randrange(1, _HUES)
        kind = number % 4
        if kind < 2:
            step = rng.choice((7, 8, 9, 11))
            text = add(
                f"text.part{number}",
                f"{{ink.{step}}}" if kind == 0 else f"{{hue{ramp}.{step}}}",
                {at: f"{{ink.{min(step + 2, 11)}}}" for at in raised} if kind == 0 else None,
            )
            count += 1
            for surface in surfaces:
                pair(text, surface, rng.choice((4.5, 4.5, 5.5, 7.0)))
        elif kind == 2:
            line = add(f"line.control{number}", f"{{ink.{rng.choice((6, 7))}}}")
            count += 1
            for surface in surfaces:
                pair(line, surface, rng.choice((3.0, 3.0, 4.5)))
        else:
            step = rng.choice((7, 8))
            by_brand = {
                Condition.of({"brand": f"b{i}"}): f"{{hue{1 + (ramp + i) % (_HUES - 1)}.{step}}}"
                for i in range(1, brands)
            }
            label = add(f"button{number}.label", "{white}")
            for place, state in enumerate(_STATES):
                shift = {
                    at: text.replace(f".{step}", f".{step + place}")
                    for at, text in by_brand.items()
                }
                fill = add(f"button{number}.fill{state}", f"{{hue{ramp}.{step + place}}}", shift)
                pair(label, fill, 4.5)
            count += 1 + len(_STATES)
    return Document(
        name="Product",
        axes=axes,
        tokens=tuple(tokens),
        ramps=tuple(made_ramps),
        pairings=tuple(pairs),
    )
