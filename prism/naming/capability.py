"""What the capability registers."""

from __future__ import annotations

from prism.capability import Capability
from prism.naming import check, commands

CAPABILITY = Capability("naming", checks=(check.CHECK,), commands=(commands,))
