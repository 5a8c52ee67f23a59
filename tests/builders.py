"""Documents and files that the tests build on."""

from __future__ import annotations

import io
import itertools
import json
import random
from dataclasses import replace
from pathlib import Path

import numpy as np
from PIL import Image

from prism.formats import resolver
from prism.model.document import Axis, Document, Follows, Group, Mode, Pairing, Token
from prism.model.values import BASE, Composite, Condition, Expression
from prism.resolution.resolver import Resolver

DATA = Path(__file__).parent / "data"


def counter_keys(prefix="k"):
    """A source of fresh keys that is the same every time."""
    numbers = itertools.count()
    return lambda: f"{prefix}{next(numbers)}"


def observatory_files():
    """The observatory's files by name, as they came."""
    folder = DATA / "observatory"
    return {
        path.name: path.read_bytes()
        for path in sorted(folder.glob("*.json"))
        if path.name != "expected.json"
    }


def observatory():
    """The observatory's document."""
    return resolver.read(observatory_files(), counter_keys())


def observatory_expected():
    """What every token of the observatory is in each of its six themes."""
    return json.loads((DATA / "observatory" / "expected.json").read_text())["themes"]


def resolved(built, key, **picks):
    """What a token is in the theme of these modes, the default ones for other axes."""
    found = Resolver(built)
    return found.resolve(key, found.theme(picks))


def theme_named(document_resolver, names):
    """The theme with the modes named, by axis name and mode name."""
    picks = {}
    for axis in document_resolver.document.axes:
        if axis.name in names:
            picks[axis.key] = next(m.key for m in axis.modes if m.name == names[axis.name])
    return document_resolver.theme(picks)


def token(path, *values, type="color", tier="semantic", key=None, **more):
    """A token; each value is a text (the base) or a pair of picks and text."""
    stored = []
    for value in values:
        picks, text = ({}, value) if isinstance(value, str) else value
        stored.append((Condition.of(picks), Expression(text)))
    return Token(key or path, path, type, tier, tuple(stored), **more)


def axis(name, *modes, default=None, follows=None):
    """An axis whose keys are its names."""
    return Axis(
        name, name, tuple(Mode(mode, mode) for mode in modes), default or modes[0], follows=follows
    )


APPEARANCE = axis("appearance", "light", "dark")
BRAND = axis("brand", "tarnmoor", "osprelle")


def document(*tokens, axes=(APPEARANCE, BRAND), **more):
    """A small document."""
    return Document(name="Small", axes=tuple(axes), tokens=tuple(tokens), **more)


_COLORS = (
    "#236b53", "#e8a343", "#f4f9f9", "#1d2121", "#00000080", "rgb(10 20 30 / 0.25)",
    "oklch(0.7 0.3 140)", "oklch(0.55 0.28 300)", "color(display-p3 0 1 0)",
    "color(display-p3 0.9 0.2 0.1 / 0.5)", "hsl(200 80% 40%)", "lab(60 90 -80)",
    "oklch(0.62 0 none)", "color(rec2020 0.1 0.9 0.4)", "rebeccapurple", "hwb(90 10% 20%)",
)  # fmt: skip


_RECKONED = (
    "color-mix(in oklch, {%s}, #ffffff 30%%)",
    "color-mix(in srgb, {%s} 60%%, transparent)",
    "color-mix(in oklab, {%s}, {%s})",
    "oklch(from {%s} calc(l * 0.8) c h)",
    "oklch(from {%s} l calc(c + 0.12) h / 80%%)",
    "rgb(from {%s} r g b / calc(alpha * 0.5))",
    "hsl(from {%s} h calc(s * 0.5) l)",
)


def random_text(rng, pool, circular):
    """A literal, an alias, or an expression over tokens of ``pool``."""
    kind = rng.random()
    if not pool or kind < 0.35:
        return rng.choice(_COLORS)
    if circular or kind < 0.7:
        return "{" + rng.choice(pool) + "}"
    text = rng.choice(_RECKONED)
    return text % tuple(rng.choice(pool) for _ in range(text.count("%s")))


def random_axes(rng):
    """Three axes; the first follows the system, defaults need not be first."""
    axes = []
    for i, count in enumerate((rng.choice((2, 3)), rng.choice((2, 3)), 2)):
        modes = tuple(Mode(f"m{j}", f"m {j}") for j in range(count))
        axes.append(Axis(f"a{i}", f"Axis {i}", modes, rng.choice(modes).key))
    dark = rng.choice(axes[0].modes).key
    pairs = (("dark", dark),) if rng.random() < 0.5 else (("light", "m0"), ("dark", dark))
    axes[0] = replace(axes[0], follows=Follows("prefers-color-scheme", pairs))
    if rng.random() < 0.4:
        contrast = Follows("prefers-contrast", (("more", axes[2].modes[1].key),))
        axes[2] = replace(axes[2], follows=contrast)
    return tuple(axes)


def random_condition(rng, axes):
    """A condition on one to three axes; default modes are as likely as any."""
    chosen = rng.sample(axes, min(len(axes), rng.choice((1, 1, 2, 3))))
    return Condition.of({one.key: rng.choice(one.modes).key for one in chosen})


def random_document(seed, count=14):
    """A document over three axes that is the same for the same seed.

    It has absent and private tokens, conditions on default modes, colors out of sRGB and
    aliases in both directions, so that some themes hold circles.
    """
    rng = random.Random(seed)
    axes = random_axes(rng)
    paths = [f"group {i % 3}.token {i}" for i in range(count)]
    tokens = []
    for i, path in enumerate(paths):
        conditions = [] if rng.random() < 0.15 else [BASE]
        conditions += [random_condition(rng, axes) for _ in range(rng.choice((0, 1, 2, 3)))]
        values = {}
        for condition in conditions:
            back = rng.random() < 0.12
            pool = paths if back else paths[:i]
            values[condition] = Expression(random_text(rng, pool, back))
        tokens.append(
            Token(
                f"t{i}",
                path,
                "color",
                "semantic",
                tuple(values.items()),
                private=rng.random() < 0.25,
            )
        )
    shadow = Composite(
        tuple(
            (name, Expression(text))
            for name, text in (
                ("color", "{" + paths[0] + "}"), ("offsetX", "0px"), ("offsetY", "2px"),
                ("blur", "8px"), ("spread", "0px"),
            )
        )
    )  # fmt: skip
    tokens.append(Token("shadow", "depth.card", "shadow", "semantic", ((BASE, shadow),)))
    tokens.append(token("copy.title", "Night trains", type="string", tier="raw"))
    return Document(
        name=f"Random {seed}",
        axes=axes,
        groups=(Group("group 0", "The first group"),),
        tokens=tuple(tokens),
        pairings=(Pairing("p", "t0", ("t1",), "text", 4.5),),
    )


def areas(colors, size=(320, 200), noise=0.0, seed=7):
    """A picture of bands, each a color (0-255) and a share of the height, with normal noise."""
    width, height = size
    rows = np.zeros((height, width, 3))
    top = 0
    for red, green, blue, share in colors:
        bottom = min(top + round(share * height), height)
        rows[top:bottom] = (red, green, blue)
        top = bottom
    rows[top:] = colors[-1][:3]
    rows += np.random.default_rng(seed).normal(0, noise, rows.shape) if noise else 0
    return Image.fromarray(np.clip(rows + 0.5, 0, 255).astype(np.uint8))


def saved(image, kind="PNG", **options):
    """A picture as the bytes of a file."""
    held = io.BytesIO()
    image.save(held, kind, **options)
    return held.getvalue()


def small_picture():
    """A small PNG file with three colors."""
    return saved(areas(((35, 107, 83, 0.5), (232, 163, 67, 0.3), (244, 249, 249, 0.2)), (60, 40)))


def without_provenance(one):
    """A document without what it remembers of files."""
    return replace(one, sources=(), layers=(), version="", resolver_file="", resolver_text="")
