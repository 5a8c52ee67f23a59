"""What can be done to levels of surfaces."""

from __future__ import annotations

from dataclasses import dataclass

from prism.changes.outcome import Outcome
from prism.commands.command import Command, command, keys_from
from prism.commands.names import short, token_name
from prism.contrast.pairing_commands import refuse_other
from prism.elevation.fixes import Lifting, liftings
from prism.errors import EditError
from prism.model.document import Document

_KINDS = {
    "step": "No step lifts",
    "between": "No color between two steps lifts",
    "line": "No line that is there lifts",
    "shadow": "A shadow does not lift",
}


@command("lift-surface")
@dataclass(frozen=True, slots=True)
class LiftSurface(Command):
    """Let the surface ``over`` lift off ``under``, both by key, in every theme: by another ``step``, a color ``between``
    two steps, or a ``line`` or ``shadow`` of its own, as ``kind`` says. ``shown`` is what was offered in words: where
    something else would be done by now, nothing is."""

    key: str
    over: str
    under: str
    kind: str
    shown: str = ""

    def _lifting(self, document: Document) -> Lifting:
        if document.token(self.over) is None or document.token(self.under) is None:
            raise EditError("That surface is no longer there.")
        for lifting in liftings(document, self.under, self.over, keys_from(self.key)):
            if lifting.kind == self.kind:
                return lifting
        words = _KINDS.get(self.kind, "Nothing of this kind lifts")
        names = (token_name(document, key) for key in (self.over, self.under))
        raise EditError(f"{words} {' off '.join(names)} in every theme.")

    def outcome(self, document: Document) -> Outcome:
        lifting = self._lifting(document)
        refuse_other(self.shown, lifting.words)
        names = " off ".join(token_name(document, key) for key in (self.over, self.under))
        return Outcome(lifting.document, sentence=f"Lifted {names}: {short(lifting.words)}")
