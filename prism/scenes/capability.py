"""What the capability registers."""

from __future__ import annotations

from prism.capability import Capability
from prism.scenes import commands

CAPABILITY = Capability("scenes", commands=(commands,))
