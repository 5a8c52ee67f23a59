"""A picture to take colors from: a harbor at dusk with one warm light, drawn by arithmetic."""

from __future__ import annotations

import io

import numpy as np
from PIL import Image, ImageDraw, ImageFilter

NAME = "harbor at dusk.jpg"
_WIDTH, _HEIGHT, _HORIZON = 1200, 800, 0.55
_ZENITH, _GLOW, _WATER = np.array([58, 62, 110]), np.array([214, 120, 96]), np.array([20, 48, 66])


def draw() -> bytes:
    """The picture as a JPEG file; the same bytes at every call on one machine."""
    down = np.linspace(0, 1, _HEIGHT)[:, None, None]
    sky = _ZENITH + (_GLOW - _ZENITH) * (down / _HORIZON)
    shine = np.maximum(0, 1 - (down - _HORIZON) / 0.2)
    water = _WATER + (_GLOW * 0.5 - _WATER) * shine
    rows = np.broadcast_to(np.where(down < _HORIZON, sky, water), (_HEIGHT, _WIDTH, 3))
    image = Image.fromarray(rows.clip(0, 255).astype(np.uint8))
    pen = ImageDraw.Draw(image)
    pen.rectangle([0, 420, 420, 460], fill=(24, 30, 38))
    pen.polygon([(700, 470), (1050, 470), (1000, 540), (760, 540)], fill=(236, 231, 219))
    pen.rectangle([820, 400, 960, 470], fill=(35, 107, 83))
    pen.ellipse([300, 340, 330, 370], fill=(246, 196, 92))
    soft = np.asarray(image.filter(ImageFilter.GaussianBlur(1.2)), dtype=float)
    grain = np.random.default_rng(1).normal(0, 5, soft.shape)
    held = io.BytesIO()
    Image.fromarray((soft + grain).clip(0, 255).astype(np.uint8)).save(held, "JPEG", quality=90)
    return held.getvalue()
