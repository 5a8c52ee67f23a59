"""What a capability registers: one thing that a person does, with all that belongs to it in one folder."""

from __future__ import annotations

from dataclasses import dataclass
from types import ModuleType

from prism.check import Check


@dataclass(frozen=True, slots=True)
class Capability:
    """The checks of a capability, in the order their findings are listed, and the modules of its commands, which
    register themselves as they are imported."""

    name: str
    checks: tuple[Check, ...] = ()
    commands: tuple[ModuleType, ...] = ()
