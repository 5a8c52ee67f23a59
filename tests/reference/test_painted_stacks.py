"""Translucent stacks against the pixels that Chromium paints.

A browser holds 8 bits between layers. Without a graphics card, as in these tests, it cuts what shows through, and
the core does the same; with one, each layer may be one step of 255 lighter.
"""

import io
import random

import numpy as np
from PIL import Image

from prism.color import space
from prism.color.contrast import contrast_ratio, flatten
from prism.formats.css import write_flat
from prism.resolution.clipped import clipped_answers
from prism.resolution.current import resolver_of
from tests.browser.base import EngineTestCase
from tests.builders import document, token

_SIZE, _ACROSS = 20, 40


def stacks(rng, count):
    """Opaque grounds with one to five translucent layers over them, top first."""
    for _ in range(count):
        layers = [
            (*(rng.randrange(256) / 255 for _ in range(3)), round(rng.uniform(0.02, 0.98), 2))
            for _ in range(rng.randrange(1, 6))
        ]
        yield [*layers, (*(rng.randrange(256) / 255 for _ in range(3)), 1.0)]


def markup(number, stack):
    """Elements in one another, the ground outermost."""
    left, top = number % _ACROSS * _SIZE, number // _ACROSS * _SIZE
    html = f'<div style="position:absolute;left:{left}px;top:{top}px">'
    for red, green, blue, alpha in reversed(stack):
        channels = " ".join(str(round(channel * 255)) for channel in (red, green, blue))
        html += (
            f'<div style="width:{_SIZE}px;height:{_SIZE}px;background:rgb({channels} / {alpha})">'
        )
    return html + "</div>" * (len(stack) + 1)


def wide_colors(rng, count):
    """Colors of every kind outside sRGB, and such that refer to them, as a document and as CSS."""
    for number in range(count):
        light, chroma, hue = rng.uniform(0.3, 0.95), rng.uniform(0.2, 0.4), rng.uniform(0, 360)
        typed = f"oklch({light:.3f} {chroma:.3f} {hue:.1f})"
        if number % 3 == 1:
            typed = f"color(display-p3 {' '.join(str(rng.choice((0, 0.5, 1))) for _ in range(3))})"
        yield f"a{number}", typed
        yield f"b{number}", f"color-mix(in oklab, {{a{number}}}, #808080 30%)"


class ClippedTests(EngineTestCase):
    viewport = {"width": _SIZE * _ACROSS, "height": 400}

    def test_300_colors_outside_srgb_as_painted(self):
        tokens = list(wide_colors(random.Random(7), 150))
        made = document(*(token(name, text) for name, text in tokens))
        theme = resolver_of(made).theme({})
        answer = clipped_answers(made)
        body, style, mapped = "", "", 0
        for number, (name, text) in enumerate(tokens):
            style += f"--{name}: {text.replace('{', 'var(--').replace('}', ')')};"
            left, top = number % _ACROSS * _SIZE, number // _ACROSS * _SIZE
            body += (
                f'<div style="position:absolute;left:{left}px;top:{top}px;width:{_SIZE}px;'
                f'height:{_SIZE}px;background:var(--{name})"></div>'
            )
        self.page.set_content(f"<!doctype html><style>:root{{{style}}}</style><body>{body}</body>")
        picture = Image.open(io.BytesIO(self.page.screenshot())).convert("RGB")
        for number, token_made in enumerate(made.tokens):
            place = (number % _ACROSS * _SIZE + 10, number // _ACROSS * _SIZE + 10)
            painted = picture.getpixel(place)
            ours = space.rgba8(answer(token_made.key, theme).color)[:3]
            self.assertLessEqual(
                max(abs(a - b) for a, b in zip(painted, ours, strict=True)), 1, tokens[number]
            )
            mapped += (
                space.rgba8(resolver_of(made).resolve(token_made.key, theme).color)[:3] != ours
            )
        self.assertGreater(mapped, 150)  # the difference is there to be seen
        sheet = write_flat(made, theme, clipped=True)
        for item in made.tokens:
            self.assertIn(f"--{item.path}: {answer(item.key, theme).css};", sheet)


class PaintedStackTests(EngineTestCase):
    viewport = {"width": _SIZE * _ACROSS, "height": 400}

    def test_400_stacks_to_the_byte_and_so_every_verdict(self):
        made = list(stacks(random.Random(3), 400))
        body = "".join(markup(number, stack) for number, stack in enumerate(made))
        self.page.set_content(f'<!doctype html><body style="margin:0">{body}</body>')
        picture = Image.open(io.BytesIO(self.page.screenshot())).convert("RGB")
        for number, stack in enumerate(made):
            place = (number % _ACROSS * _SIZE + 10, number // _ACROSS * _SIZE + 10)
            painted = picture.getpixel(place)
            ours = flatten([np.array([layer]) for layer in stack])[0, :3]
            self.assertEqual(tuple(np.rint(ours * 255).astype(int).tolist()), painted, stack)
            ground = flatten([np.array([layer]) for layer in stack[1:]])[0, :3]
            ratio = float(contrast_ratio(ours, ground))
            again = float(contrast_ratio(np.array(painted) / 255, ground))
            self.assertEqual(ratio, again)
