"""Random color expressions in all of CSS's syntax, and their mutations."""

from __future__ import annotations

import json
import random
import re
from pathlib import Path

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.channels import HUES, MIX_SPACES, POLAR, RGB_SPACES
from prism.expressions.values import parse

RECORD = Path(__file__).parent / "data" / "expressions.json"

COLOR_SPACES = (*RGB_SPACES, "xyz", "xyz-d50", "xyz-d65")
#: Channels by function: name, lowest and highest plain number, and what 100 % means.
FUNCTIONS = {
    "rgb": (("r", 0, 255, 255), ("g", 0, 255, 255), ("b", 0, 255, 255)),
    "hsl": (("h", -400, 800, 0), ("s", 0, 110, 100), ("l", 0, 100, 100)),
    "hwb": (("h", -400, 800, 0), ("w", 0, 70, 100), ("b", 0, 70, 100)),
    "lab": (("l", 0, 100, 100), ("a", -70, 70, 125), ("b", -70, 70, 125)),
    "lch": (("l", 0, 100, 100), ("c", 0, 80, 150), ("h", -400, 800, 0)),
    "oklab": (("l", 0, 1, 1), ("a", -0.2, 0.2, 0.4), ("b", -0.2, 0.2, 0.4)),
    "oklch": (("l", 0, 1, 1), ("c", 0, 0.2, 0.4), ("h", -400, 800, 0)),
}
#: Cases that random expressions meet seldom, by what they are about; computed as Chromium does.
COMPUTED = {
    "the hue of grays": (
        "color-mix(in oklch, #808080, red)",
        "color-mix(in lch, rgb(128 127 126), red)",
        "color-mix(in oklch, lch(50 1 100), red)",
        "color-mix(in lch, lch(50 0 100), red)",
        "color-mix(in hsl, white, red)",
        "color-mix(in hsl, hsl(40 0% 50%), red)",
        "color-mix(in hsl longer hue, white, red 30%)",
        "oklch(from #808080 0.6 0.1 h)",
        "color-mix(in oklch, color(srgb 0.564 0.5 0.5), color(srgb 0.2 0.6 0.3))",
        "color-mix(in hwb, lch(50 0 0), red)",
        "lch(from oklch(0.5 0 0) l 40 h)",
    ),
    "missing components": (
        "rgb(20 40 60 / none)",
        "color-mix(in srgb, rgb(20 20 20 / none), rgb(100 90 80 / 50%))",
        "color-mix(in oklab, color(srgb 0.2 none 0.3 / 0.2), color(srgb 0.5 0.6 0.7 / 0.8))",
        "color-mix(in srgb, color(xyz none 0.2 0.2), red)",
        "color-mix(in oklab, lab(50 none 20), red)",
        "color-mix(in srgb, gray, lab(none none none))",
        "color-mix(in lab, red, hsl(none none 50%))",
        "oklch(from oklch(0.5 0.1 none) l c h)",
        "color-mix(in hsl, hwb(50 none 20%), red)",
        "rgb(from rgb(20 none 30) r calc(g + 10) b)",
        "rgb(from rgb(10 20 30 / none) r g b / calc(alpha + 0.5))",
    ),
    "ranges": (
        "hsl(400 80% 50%)",
        "hsl(-0.5turn 80% 50%)",
        "hsl(90, 110%, 50%)",
        "hsl(90 -10% 50%)",
        "hwb(90 80% 80%)",
        "oklch(1.2 0 20)",
        "oklch(0.5 -0.1 20)",
        "rgb(calc(infinity) 0 0)",
        "rgb(calc(NaN) 10 0)",
        "rgb(300 -20 0)",
        "oklch(from oklab(0.5 0.1 -0.1) l 0.1 calc(h * 0.5))",
        "rgb(1 2 3 / 2)",
        "color-mix(in oklch decreasing hue, oklab(0.4 0.05 -0.05), oklch(0.5 0.1 320) 81%)",
    ),
    "forms that are accepted": (
        "color-mix(red, blue)",
        "color-mix(in display-p3-linear, red, rgb(0 200 0))",
        "color-mix(in oklab, red 0%, blue 0%)",
        "color-mix(in oklab, red calc(110%), blue)",
        "color(display-p3-linear 0.2 0.3 0.4)",
        "contrast-color(#767676)",
        "contrast-color(#757575)",
        "rgb(calc(sin(90deg) * 255) 0 0)",
        "rgb(pow(2, 7) sqrt(16) hypot(3, 4))",
        "rgb(log(100, 10) exp(2) abs(-3))",
        "rgb(mod(18, 5) rem(-18, 5) mod(-18, 5))",
        "oklch(0.5 0.1 atan2(1, 1))",
        "rgb(clamp(none, 300, 200) 0 0)",
        "rgb(calc(pi * 20) calc(e * 10) 0)",
        "rgb(round(up, 12.1, 5) round(to-zero, 12, 5) round(12.5))",
        "rgb(10.3%, 20%, 30%, 1%)",
        "oklch(from red l 0.1 calc(h * 1deg))",
        "rgba(10 20 30)",
        "rgb(10,20,30,40%)",
    ),
}
#: Forms that Chromium refuses.
REFUSED = (
    "lab(79.1% 43.4 / .35)", "oklch(0.5 0.1 calc(1)(2))", "rgb(10, 20%, 30)",
    "rgb(10, 20, none)", "hsl(120, 50, 50)", "lab(50, 20, 30)", "rgb(10,20,30 / 40%)",
    "rgb(pi 0 0)", "rgb(calc(1+ 2) 0 0)", "rgb(max(10, 20%) 0 0)", "hsl(50% 50% 50%)",
    "color-mix(in oklab, red)", "color-mix(in oklab, red, blue, lime)",
    "color-mix(in oklab, red -10%, blue)", "color-mix(in srgb shorter hue, red, blue)",
    "rgb(from red r, g, b)", "color(srgb 1 1)", "color(from red oklch l c h)",
    "oklch(from red calc(l + 10%) c h)", "rgb((10) 20 30)", "lch(50 20 50%)",
)  # fmt: skip
NAMES = ("white", "black", "gray", "rebeccapurple", "tomato", "transparent", "MediumPurple")


def _number(rng, low, high):
    digits = 0 if high - low > 150 and rng.random() < 0.6 else rng.choice((1, 2, 3))
    return f"{rng.uniform(low, high):.{digits}f}"


def _angle(rng, low, high):
    degrees = rng.uniform(low, high)
    unit, size = rng.choice((("deg", 1), ("deg", 1), ("turn", 360), ("grad", 0.9)))
    return f"{degrees / size:.3f}{unit}"


def _channel(rng, channel):
    """One plain channel of a color: a number, a percentage, an angle, ``none`` or some math."""
    name, low, high, whole = channel
    kind = rng.random()
    if kind < 0.08:
        return "none"
    if name == "h":
        return _angle(rng, low, high) if kind < 0.4 else _number(rng, low, high)
    if kind < 0.25 and whole:
        return f"{_number(rng, low / whole * 100, high / whole * 100)}%"
    plain = _number(rng, low, high)
    if kind < 0.33:
        return rng.choice(
            (
                f"calc({plain} * 0.9)", f"calc({plain} / 2 + {plain} / 3)", f"min({plain}, {high})",
                f"clamp({low}, {plain}, {high})", f"calc(({plain} + {plain}) / 2)",
            )
        )  # fmt: skip
    return plain


def _alpha(rng):
    kind = rng.random()
    if kind < 0.55:
        return ""
    if kind < 0.62:
        return " / none"
    if kind < 0.8:
        return f" / {rng.randrange(0, 101)}%"
    return f" / {rng.choice((rng.uniform(0, 1), rng.uniform(0, 1), rng.uniform(-0.2, 1.3))):.3f}"


def _legacy(rng):
    alpha = rng.choice(("", f", {rng.uniform(0, 1):.2f}", f", {rng.randrange(101)}%"))
    if rng.random() < 0.5:
        if rng.random() < 0.3:
            parts = [f"{rng.uniform(0, 100):.1f}%" for _ in range(3)]
        else:
            parts = [_number(rng, -20, 280) for _ in range(3)]
        return f"{rng.choice(('rgb', 'rgba'))}({', '.join(parts)}{alpha})"
    hue = f"{_number(rng, -400, 800)}{rng.choice(('', 'deg'))}"
    return (
        f"{rng.choice(('hsl', 'hsla'))}({hue}, {rng.randrange(0, 120)}%, "
        f"{rng.randrange(0, 101)}%{alpha})"
    )


def plain(rng):
    """A color without another color in it."""
    kind = rng.random()
    if kind < 0.15:
        digits = rng.choice((3, 4, 6, 6, 6, 8))
        return f"#{rng.randrange(16**digits):0{digits}x}"
    if kind < 0.22:
        return rng.choice(NAMES)
    if kind < 0.32:
        return _legacy(rng)
    if kind < 0.48:
        channels = " ".join(
            "none" if rng.random() < 0.08 else f"{rng.uniform(0, 1):.3f}" for _ in range(3)
        )
        return f"color({rng.choice(COLOR_SPACES)} {channels}{_alpha(rng)})"
    name = rng.choice(list(FUNCTIONS))
    channels = " ".join(_channel(rng, channel) for channel in FUNCTIONS[name])
    return f"{name}({channels}{_alpha(rng)})"


def mix(rng, depth):
    """``color-mix()`` of two colors in any space, with any shares."""
    name = rng.choice((*MIX_SPACES, "oklch", "oklab", "srgb", "hsl"))
    hue = f" {rng.choice(HUES)} hue" if name in POLAR and rng.random() < 0.5 else ""
    colors = [
        expression(rng, depth - 1)
        + rng.choice(("", "", f" {rng.randrange(0, 101)}%", f" calc({rng.randrange(50)}% + 10%)"))
        for _ in range(2)
    ]
    return f"color-mix(in {name}{hue}, {', '.join(colors)})"


def _moved(rng, channel):
    """A channel of a relative color: kept, moved, replaced."""
    name, low, high, _ = channel
    near = _number(rng, low, high)
    if name == "h":
        moved = (
            f"calc(h + {rng.randrange(-300, 300)})", f"calc(h * {rng.uniform(0.2, 2):.2f})",
            f"calc(h - {rng.randrange(90)})", "mod(h, 90)",
        )  # fmt: skip
    else:
        moved = (
            f"calc({name} * {rng.uniform(0.5, 1.2):.2f})", f"calc({name} + {near} / 8)",
            f"min({name}, {near})", f"max({name}, {near})", f"calc(({name} + {near}) / 2)",
            f"clamp({low}, {name}, {near})", f"sqrt(pow({name}, 2))", f"abs({name})",
            f"calc({name} * sin(1.2))", f"calc({name} * cos(0.4))",
            f"calc({near} * sign({name}))", f"calc({name} * pi / 4)",
            f"round({name}, {0.01 * max(high, 1):.3f})", f"calc({name} * exp(-0.2))",
            f"hypot({name}, {near})", f"calc({name} * log(e))",
        )  # fmt: skip
    return rng.choice((name, name, rng.choice(moved), rng.choice(moved), near, "none"))


def relative(rng, depth):
    """A relative color in any function."""
    origin = expression(rng, depth - 1)
    alpha = rng.choice(
        ("", "", " / alpha", " / calc(alpha * 0.5)", " / 60%", " / none", " / calc(1 - alpha / 2)")
    )
    if rng.random() < 0.3:
        name = rng.choice(COLOR_SPACES)
        letters = "xyz" if name.startswith("xyz") else "rgb"
        channels = [(letter, 0, 1, 1) for letter in letters]
        body = " ".join(_moved(rng, channel) for channel in channels)
        return f"color(from {origin} {name} {body}{alpha})"
    name = rng.choice(list(FUNCTIONS))
    body = " ".join(_moved(rng, channel) for channel in FUNCTIONS[name])
    return f"{name}(from {origin} {body}{alpha})"


def expression(rng, depth=3):
    """A color expression nested at most ``depth`` deep."""
    kind = rng.random()
    if depth <= 0 or kind < 0.3:
        return plain(rng)
    return mix(rng, depth) if kind < 0.68 else relative(rng, depth)


_SCRAPS = (
    " ", "(", ")", ",", "/", "%", "none", "0", "-", "+", "deg", "in", "from", "calc(1)", "e",
    "hue", "50%", "#", "red", "px", ".", "1e3", "in srgb", "alpha", "longer hue,", "infinity",
)  # fmt: skip


def _gently(rng, text):
    """A change that often leaves a color: a number, a case, a blank, a bracket around a value."""
    numbers = list(re.finditer(r"(?<![\w#.-])-?\d+(?:\.\d+)?%?", text))
    kind = rng.randrange(6)
    if kind == 0 or not numbers:
        place = rng.randrange(len(text))
        return text[:place] + text[place:].upper()
    if kind == 1:
        return re.sub(
            r" ", rng.choice(("  ", "\t", " /**/ ", "\n")), text, count=rng.randrange(1, 4)
        )
    number = rng.choice(numbers)
    by = {
        2: f"{rng.uniform(-400, 900):.2f}",
        3: rng.choice(("none", "0", "1e2", "+.5", "-0", "100%", "1.", "00012", "10deg", "1turn")),
        4: f"calc({number[0]})",
        5: f"{number[0]}{rng.choice(('%', 'deg', 'px', ' ', 'e1', ''))}",
    }[kind]
    return text[: number.start()] + by + text[number.end() :]


def mutated(rng):
    """An expression with one to three places changed: about half are still colors."""
    text = expression(rng, rng.choice((0, 1, 1, 2)))
    if rng.random() < 0.65:
        for _ in range(rng.choice((1, 2))):
            text = _gently(rng, text)
        return text
    for _ in range(rng.choice((1, 1, 2, 3))):
        place = rng.randrange(len(text))
        end = min(len(text), place + rng.choice((0, 1, 1, 2, 4)))
        text = text[:place] + rng.choice(("", *_SCRAPS)) + text[end:]
    return text


_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?|none|-?infinity|NaN")
STEP = 1 / 255


def numbers(text):
    """Channels and alpha of a color that Chromium wrote."""
    values = [0.0 if n in ("none", "NaN") else float(n) for n in _NUMBER.findall(text)]
    return values if len(values) == 4 else [*values, 1.0]


def ours(text):
    """The color of an expression; None where it is refused."""
    try:
        return parse(text, "color").literal
    except ExpressionError:
        return None


def outcome(color, found):
    """How a color compares with Chromium's, written as ``color(srgb ...)``; None where refused."""
    if color is None or found is None:
        return "both refuse" if color is found else "one refuses"
    if not space.in_gamut(color, "srgb"):
        return "outside"
    *theirs, alpha = numbers(found.split("srgb", 1)[1])
    channels = space.engine(color).convert("srgb").coords(nans=False)
    apart = max(abs(our - their) for our, their in zip(channels, theirs, strict=True))
    if color.alpha == alpha == 0:
        return "equal"
    return "equal" if max(apart, abs(color.alpha - alpha)) <= STEP else "different"


def recorded():
    """What Chromium made of 1,500 expressions; None of what it refused. Written again by
    ``tests.reference.test_random_expressions`` with ``NIMBLE_PRISM_RECORD=yes``."""
    return json.loads(RECORD.read_text())


def to_record():
    """The expressions that are recorded: the cases above, and some of chance."""
    rng = random.Random(2028)
    cases = [text for texts in COMPUTED.values() for text in texts]
    cases += [*REFUSED, *(expression(rng) for _ in range(900)), *(mutated(rng) for _ in range(540))]
    return list(dict.fromkeys(cases))
