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
    private,
    same_modes,
    skipped_tier,
    two_meanings,
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
        skipped_tier.CHECK,
        two_meanings.CHECK,
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
