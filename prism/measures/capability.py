"""What the capability registers."""

from __future__ import annotations

from prism.capability import Capability
from prism.measures import commands

CAPABILITY = Capability("measures", commands=(commands,))
