"""What the capability registers."""

from __future__ import annotations

from prism.capability import Capability
from prism.vision import check, commands

CAPABILITY = Capability("vision", checks=(check.CHECK,), commands=(commands,))
