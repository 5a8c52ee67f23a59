"""The six axes of the trip planner, and the conditions its values hold under."""

from __future__ import annotations

from prism.model.document import Axis, Follows, Mode

AXES = (
    Axis(
        "appearance",
        "appearance",
        (
            Mode("light", "light", "By day", "light"),
            Mode("dark", "dark", "By night", "dark"),
            Mode("dim", "dim", "Cabins after ten", "dark"),
        ),
        "light",
        "How much light there is around the screen",
        Follows("prefers-color-scheme", (("dark", "dark"),)),
    ),
    Axis(
        "brand",
        "brand",
        (
            Mode("tarnmoor", "Tarnmoor", "Tarnmoor Night Rail: deep, quiet, a warm lamp"),
            Mode("osprelle", "Osprelle", "Osprelle Ferries: clear, salty, coral"),
            Mode("vexley", "Vexley", "Vexley Harbor Trams: brisk, graphic, gorse"),
        ),
        "tarnmoor",
        "The carrier whose journey it is",
    ),
    Axis(
        "contrast",
        "contrast",
        (Mode("standard", "standard"), Mode("raised", "raised", "Kiosks on the quay, in the sun")),
        "standard",
        "How far words stand out",
        Follows("prefers-contrast", (("more", "raised"),)),
    ),
    Axis(
        "status",
        "status",
        (
            Mode("running", "running"),
            Mode("delayed", "delayed"),
            Mode("cancelled", "cancelled"),
            Mode("notice", "notice"),
        ),
        "running",
        "How a departure stands; set on a row or a card",
    ),
    Axis(
        "density",
        "density",
        (Mode("roomy", "roomy"), Mode("compact", "compact")),
        "roomy",
        "How much fits on a screen",
    ),
    Axis(
        "language",
        "language",
        (Mode("english", "English"), Mode("portuguese", "Português")),
        "english",
        "The language of the copy",
    ),
)

LIGHT: dict[str, str] = {}
DARK = {"appearance": "dark"}
DIM = {"appearance": "dim"}
TARNMOOR: dict[str, str] = {}
OSPRELLE = {"brand": "osprelle"}
VEXLEY = {"brand": "vexley"}
RAISED = {"contrast": "raised"}
RUNNING: dict[str, str] = {}
DELAYED = {"status": "delayed"}
CANCELLED = {"status": "cancelled"}
NOTICE = {"status": "notice"}
COMPACT = {"density": "compact"}
PORTUGUESE = {"language": "portuguese"}
