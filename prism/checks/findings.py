"""What a check has to say."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing a check says: what, about which token, where, and what would mend it.

    ``check`` is the id of the check; ``token`` a token's key, or empty.
    """

    check: str
    sentence: str
    token: str = ""
    place: str = ""
    mend: str = ""
