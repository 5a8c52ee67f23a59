"""What the capability registers."""

from __future__ import annotations

from prism.capability import Capability
from prism.exchange import commands

CAPABILITY = Capability("exchange", commands=(commands,))
