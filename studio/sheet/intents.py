"""What can be done to selected rows, by intent: the command of each, and the fields it needs."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Intent:
    """An action: its command with what it carries, what it is called, and the fields it needs."""

    command: str
    words: str
    needs: str = ""


INTENTS = (
    (
        "Values",
        (
            Intent("map-cells", "Map to ramp", "ramp"),
            Intent("shift-cells?by=-1", "Shift to the step before"),
            Intent("shift-cells?by=1", "Shift to the step after"),
            Intent("mirror-cells", "Mirror along the ramp"),
            Intent("set-cells", "Set to a value or token", "text"),
            Intent("fill-cells", "Fill from the first row"),
            Intent("fill-cells?along=yes", "Fill along ramp"),
            Intent("copy-mode", "Copy from mode to mode", "modes"),
            Intent("set-opacity", "Set opacity, in percent", "text"),
            Intent("clear-cells", "Clear, inherit again"),
        ),
    ),
    (
        "Names and places",
        (
            Intent("replace-in-names", "Find and replace in names", "text replacement"),
            Intent("move-to-group", "Move to group", "text"),
            Intent("reorder-tokens", "Move after a token", "after"),
            Intent("duplicate-tokens", "Duplicate"),
            Intent("delete-tokens", "Delete"),
        ),
    ),
    (
        "What they are",
        (
            Intent("mark-tokens?role-is=as-role", "Set role", "role"),
            Intent("mark-tokens?text-is=description", "Describe", "text"),
            Intent("mark-tokens?text-is=uses", "Set uses", "text"),
            Intent("mark-tokens?tier=raw", "Make raw"),
            Intent("mark-tokens?tier=semantic", "Make semantic"),
            Intent("mark-tokens?tier=component", "Make component"),
            Intent("mark-tokens?private=yes", "Make private"),
            Intent("mark-tokens?private=no", "Make public"),
        ),
    ),
)
