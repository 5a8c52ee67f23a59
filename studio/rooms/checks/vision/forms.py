"""Forms of the sets of colors that must be told apart."""

from __future__ import annotations

#: The labels of fields that belong to a command and to no form of their own.
LABELS = {
    "tell-apart.name": "name",
    "tell-apart.tokens": "colors, separated by commas",
    "tell-apart.besides": "they also differ by",
    "vision.severity": "severity",
}
