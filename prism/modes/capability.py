"""What the capability registers."""

from __future__ import annotations

from prism.capability import Capability
from prism.modes import commands, merged

CAPABILITY = Capability("modes", checks=(merged.CHECK,), commands=(commands,))
