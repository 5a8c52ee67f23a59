"""Recipes of ramps as text: what a form sends and what a document keeps."""

from __future__ import annotations

import re
from collections.abc import Mapping

from prism.color import space
from prism.errors import EditError, ExpressionError, PrismError
from prism.palette.ramps import Method, Recipe

Fields = tuple[tuple[str, str], ...]

#: Every field of a recipe with its default, in the order it is kept.
DEFAULTS: Mapping[str, str] = {
    "seed": "",
    "count": "11",
    "method": "anchored",
    "targets": "",
    "reference": "#ffffff",
    "lightest": "0.985",
    "darkest": "0.2",
    "drift-light": "0",
    "drift-dark": "0",
    "curve": "1",
    "tint": "1",
    "gamut": "srgb",
    "keep-seed": "yes",
}
_METHODS: Mapping[str, Method] = {"anchored": "anchored", "even": "even"}
_LIST = re.compile(r"[\s,;]+")


def complete(fields: Mapping[str, str]) -> Fields:
    """Every field of a recipe, from what was said and the defaults."""
    targets = []
    for name, default in DEFAULTS.items():
        text = fields.get(name, "").strip()
        targets.append((name, text or default))
    return tuple(targets)


def read(fields: Mapping[str, str] | Fields) -> Recipe:
    """The recipe that fields describe. Raises ``PrismError`` naming the field that is wrong."""
    texts = dict(complete(dict(fields)))
    method = _METHODS.get(texts["method"])
    if method is None:
        raise PrismError(f"“{texts['method'][:40]}” is not a method.", place="Method")
    return Recipe(
        seed=_color(texts["seed"], "Base color"),
        count=_count(texts["count"]),
        method=method,
        targets=tuple(
            _number(text, "Contrast targets") for text in _LIST.split(texts["targets"]) if text
        ),
        reference=_color(texts["reference"], "Measured against"),
        ends=(
            _number(texts["lightest"], "Even: lightest"),
            _number(texts["darkest"], "Even: darkest"),
        ),
        drift=(
            _number(texts["drift-light"], "Hue drift to light"),
            _number(texts["drift-dark"], "Hue drift to dark"),
        ),
        curve=_number(texts["curve"], "Chroma falloff"),
        tint=_number(texts["tint"], "Chroma ×"),
        gamut=texts["gamut"],
        keep_seed=texts["keep-seed"] == "yes",
    )


def step_names(text: str, count: int) -> tuple[str, ...]:
    """Names for ``count`` steps from a list of words or numbers; 1 to ``count`` where it is empty."""
    if not text.strip():
        return tuple(str(number) for number in range(1, count + 1))
    names = tuple(name for name in _LIST.split(text.strip()) if name)
    if len(names) != count:
        raise EditError(f"{count} steps need {count} names, not {len(names)}.")
    twice = next((name for name in names if names.count(name) > 1), "")
    if twice:
        raise EditError(f"Two steps are named “{twice}”.", fix="Give each step its own name.")
    return names


def numbers_text(values: tuple[float, ...]) -> str:
    """Targets as they stand in a field."""
    return " ".join(space.number_text(value, 3) for value in values)


def _color(text: str, place: str) -> space.Color:
    try:
        if not text:
            raise ExpressionError("No color was given.", fix="Write one such as #236b53.")
        return space.parse_function(text)
    except ExpressionError as error:
        raise error.at(place) from None


def _count(text: str) -> int:
    number = _number(text, "Steps")
    if number != int(number):
        raise PrismError("The number of steps is a whole number.", place="Steps")
    return int(number)


def _number(text: str, place: str) -> float:
    if not re.fullmatch(r"[+-]?(\d{1,9}(\.\d{0,9})?|\.\d{1,9})", text):
        raise PrismError(f"“{text[:40]}” is not a number.", place=place)
    return float(text)
