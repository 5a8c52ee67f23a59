"""What the capability registers."""

from __future__ import annotations

from prism.capability import Capability
from prism.modes import commands

CAPABILITY = Capability("modes", commands=(commands,))
