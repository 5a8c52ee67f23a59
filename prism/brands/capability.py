"""What the capability registers."""

from __future__ import annotations

from prism.brands import commands
from prism.capability import Capability

CAPABILITY = Capability("brands", commands=(commands,))
