"""The palette of the trip planner: ramps, veils and measures.

The ramps are anchored: the same step of any two ramps meets the same contrast on white.
"""

from __future__ import annotations

from demo.quillhaven.building import shadow, token
from prism.model.document import Ramp, Token
from prism.palette import ramp_edits, ramps, recipes

#: Seed, purpose and number of steps of each ramp.
RAMPS = {
    "ink": ("#6a7877", "ink", 11),
    "spruce": ("#236b53", "identity", 11),
    "lamp": ("#e8a343", "identity", 11),
    "brine": ("#1ea1bb", "identity", 11),
    "coral": ("#f06a52", "identity", 11),
    "heather": ("#7e62d2", "identity", 11),
    "gorse": ("#bab61f", "identity", 11),
    "go": ("#0f873f", "signal", 11),
    "wait": ("#be8b00", "signal", 11),
    "stop": ("#d73a3c", "signal", 11),
    "reed": ("#8d9a4e", "extra", 5),
}
#: Level of a shadow: how far down and how far out it goes, and the veil it is made of.
LIFTS = {
    "0": ("0px", "0px", "veil.ink.08"),
    "1": ("1px", "4px", "veil.ink.08"),
    "2": ("2px", "8px", "veil.ink.08"),
    "3": ("4px", "16px", "veil.ink.16"),
    "4": ("8px", "24px", "veil.ink.16"),
    "5": ("16px", "48px", "veil.ink.50"),
}


def steps() -> tuple[list[Token], list[Ramp]]:
    """The steps of every ramp, made by its recipe, and the ramps."""
    tokens, found = [], []
    for name, (seed, purpose, count) in RAMPS.items():
        fields = recipes.complete({"seed": seed, "count": str(count)})
        texts = ramp_edits.step_texts(ramps.make(recipes.read(fields)), seed)
        made = [
            token(f"{name}.{step}", "color", "raw", ({}, text))
            for step, text in enumerate(texts, 1)
        ]
        tokens += made
        found.append(Ramp(name, name, tuple(one.key for one in made), purpose, fields))
    return tokens, found


def singles() -> list[Token]:
    """White, black, and the translucent veils of both."""
    tokens = [
        token("white", "color", "raw", ({}, "#ffffff")),
        token("black", "color", "raw", ({}, "#000000")),
    ]
    for share in ("08", "16", "50", "72"):
        tokens.append(token(f"veil.ink.{share}", "color", "raw", ({}, f"rgb(0 0 0 / 0.{share})")))
    for share in ("08", "10", "16"):
        tokens.append(
            token(f"veil.paper.{share}", "color", "raw", ({}, f"rgb(255 255 255 / 0.{share})"))
        )
    return tokens


def groups_of(tokens: list[Token]) -> list[Ramp]:
    """Black, white and the veils, group by group, as they are."""
    members: dict[str, list[str]] = {}
    for one in tokens:
        members.setdefault(one.group, []).append(one.key)
    return [Ramp(name or "single", name, tuple(keys), "ground") for name, keys in members.items()]


def measures() -> list[Token]:
    """Space and radii on one scale, sizes of type, weights of lines, levels of shadow."""
    scales = {
        "measure": (0, 2, 4, 6, 8, 12, 16, 20, 24, 32),
        "size": (12, 14, 16, 20, 26, 34),
        "stroke": (1, 2, 3),
    }
    tokens = [
        token(f"{name}.{size}", "dimension", "raw", ({}, f"{size}px"))
        for name, sizes in scales.items()
        for size in sizes
    ]
    weights = {"plain": 400, "strong": 600, "loud": 700}
    tokens += [
        token(f"weight.{name}", "fontWeight", "raw", ({}, str(weight)))
        for name, weight in weights.items()
    ]
    return tokens + [
        token(f"lift.{level}", "shadow", "raw", ({}, shadow(f"{{{veil}}}", down, out)))
        for level, (down, out, veil) in LIFTS.items()
    ]
