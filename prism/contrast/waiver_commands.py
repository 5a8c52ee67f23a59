"""Pairings that may fall short, with the reason."""

from __future__ import annotations

import datetime
from dataclasses import dataclass, replace

from prism.commands.command import Command, asked, command
from prism.commands.names import short
from prism.commands.reasons import read_reason
from prism.contrast.pairing_commands import counted_pairing, with_pairing
from prism.errors import EditError
from prism.model.document import Document
from prism.resolution import contrast


@command("waive-pairing")
@dataclass(frozen=True, slots=True)
class WaivePairing(Command):
    """Accept that a pairing falls short, and say why, who did, and up to which day, as ``2026-12-31``; empty: for
    good. Without a reason the waiver ends. A pairing that a rule makes becomes one of its own with the key ``key``.
    """

    key: str
    pairing: str
    reason: str = asked("Waive it, because", default="")
    until: str = asked("until", default="")
    by: str = ""

    def apply(self, document: Document) -> Document:
        pairing = counted_pairing(document, self.pairing)
        changed = replace(pairing, waiver="", waived_by="", waived_until="")
        if self.reason.strip():
            until = read_day(self.until)
            changed = replace(
                changed, waiver=read_reason(self.reason), waived_by=self.by, waived_until=until
            )
        elif not pairing.waiver:
            raise EditError("A reason is missing.", fix="Say why this pairing may fall short.")
        return with_pairing(document, changed, self.key)

    def sentence(self, before: Document) -> str:
        words = contrast.summary(before, counted_pairing(before, self.pairing))
        if not self.reason.strip():
            return f"Ended the waiver of {words}"
        until = f" until {self.until.strip()}" if self.until.strip() else ""
        return f"Waived {words}{until}: {short(self.reason)}"


def read_day(text: str) -> str:
    """A day as ``2026-12-31``; empty stays so. Raises ``EditError`` for any other text."""
    if not text.strip():
        return ""
    try:
        return datetime.date.fromisoformat(text.strip()).isoformat()
    except ValueError:
        raise EditError(f"“{text[:20]}” is not a day.", fix="Write it as 2026-12-31.") from None
