"""What the capability registers."""

from __future__ import annotations

from prism.capability import Capability
from prism.elevation import check, commands

CAPABILITY = Capability("elevation", checks=(check.CHECK,), commands=(commands,))
