"""Why something is decided, as a person says it."""

from __future__ import annotations

from prism.errors import EditError

_LONGEST = 300


def read_reason(text: str) -> str:
    """A reason. Raises ``EditError`` where there is none, or it is too long."""
    reason = text.strip()
    if not reason:
        raise EditError(
            "A reason is missing.", fix="Say why this is no matter, for those who read it later."
        )
    if len(reason) > _LONGEST:
        raise EditError(f"The reason has {len(reason)} characters; at most {_LONGEST}.")
    return reason
