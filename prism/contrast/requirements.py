"""Uses and contrast ratios as commands take them, and as sentences say them."""

from __future__ import annotations

import math

from prism.errors import EditError
from prism.model.document import Use
from prism.resolution.contrast import REQUIRED


def read_use(name: str) -> Use:
    """The use of a pairing. Raises ``EditError`` for any other text."""
    use = next((use for use in REQUIRED if use == name), None)
    if use is None:
        raise EditError(f"“{name[:40]}” is not a use of a pairing.")
    return use


def read_ratio(ratio: float) -> float:
    """A contrast ratio that can be required, or 0. Raises ``EditError`` for any other number."""
    if not math.isfinite(ratio) or (ratio and not 1 <= ratio <= 21):
        raise EditError("A contrast ratio lies between 1 and 21.", fix="Write 0 for none.")
    return ratio


def ratio_in_words(ratio: float) -> str:
    """``4.5``; ``nothing`` for 0."""
    return f"{ratio:g}" if ratio else "nothing"
