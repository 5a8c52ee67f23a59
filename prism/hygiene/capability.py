"""What the capability registers."""

from __future__ import annotations

from prism.capability import Capability
from prism.hygiene import (
    absent,
    broken,
    clash,
    commands,
    default,
    deprecated,
    duplicate,
    gamut,
    hidden,
    literal,
    meaning,
    private,
    same_modes,
    skipping,
    unit,
    unused,
)

CAPABILITY = Capability(
    "hygiene",
    checks=(
        broken.CHECK,
        hidden.CHECK,
        absent.CHECK,
        literal.CHECK,
        skipping.CHECK,
        meaning.CHECK,
        duplicate.CHECK,
        unused.CHECK,
        deprecated.CHECK,
        private.CHECK,
        clash.CHECK,
        same_modes.CHECK,
        gamut.CHECK,
        unit.CHECK,
        default.CHECK,
    ),
    commands=(commands,),
)
