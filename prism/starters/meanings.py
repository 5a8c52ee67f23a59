"""What a new scheme means: its semantic colors, what each is for, and their steps by day and night.

Steps are those of anchored ramps of eleven, so that every rule holds for the ramp of any color: text
of step 8 reaches 4.5 on the darkest of the light surfaces, of step 4 on the lightest of the dark ones.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Meaning:
    """A semantic color: its path, its role, its light and dark value, and what it is for.

    ``N`` stands in a value for the neutral ramp, ``B`` for the leading brand's, ``S`` for that of the
    status. ``belongs_to`` is a path.
    """

    path: str
    role: str
    light: str
    dark: str
    description: str
    belongs_to: str = ""


SURFACES = (
    Meaning("surface.page", "page", "{N.1}", "{N.11}", "Under everything"),
    Meaning("surface.sunken", "surface", "{N.2}", "{black}", "Wells and the foot of a page"),
    Meaning("surface.card", "surface", "{white}", "{N.10}", "What lies on the page"),
    Meaning("surface.raised", "surface", "{white}", "{N.9}", "Menus and dialogs"),
    Meaning("surface.selected", "surface", "{B.2}", "{B.10}", "Behind selected rows"),
    Meaning("surface.inverse", "surface inverse", "{N.11}", "{N.1}", "Against the page"),
)
TEXTS = (
    Meaning("text.main", "text", "{N.11}", "{N.1}", "Headings and reading"),
    Meaning("text.quiet", "text quiet", "{N.9}", "{N.3}", "What supports the main line"),
    Meaning("text.hint", "text hint", "{N.8}", "{N.4}", "Hints and placeholders"),
    Meaning("text.link", "text link", "{B.8}", "{B.4}", "A way to somewhere else"),
    Meaning(
        "text.link-hover",
        "text link hover",
        "{B.9}",
        "{B.3}",
        "A link under the pointer",
        "text.link",
    ),
    Meaning("text.disabled", "text disabled", "{N.6}", "{N.6}", "What cannot be used now"),
    Meaning("text.inverse", "text inverse", "{N.1}", "{N.11}", "On surface.inverse"),
)
LINES = (
    Meaning("line.soft", "line soft", "{N.3}", "{N.8}", "Between rows and around cards"),
    Meaning("line.strong", "line control", "{N.7}", "{N.5}", "Around what can be used"),
    Meaning("focus.ring", "focus", "{B.7}", "{B.5}", "Around what has the focus"),
)
FIELDS = (Meaning("field.fill", "fill field", "{white}", "{N.11}", "Where something is typed"),)
QUIET = (Meaning("action.quiet", "fill", "{B.2}", "{B.10}", "Behind what is chosen"),)
DISABLED = (
    Meaning(
        "action.fill.disabled", "fill action disabled", "{N.3}", "{N.8}",
        "An action that cannot be used now", "action.fill.$root",
    ),
    Meaning(
        "action.label.disabled", "label disabled", "{N.6}", "{N.5}", "On action.fill.disabled",
        "action.fill.disabled",
    ),
)  # fmt: skip
OVERLAYS = (
    Meaning(
        "overlay.hover", "overlay hover", "{overlay dark.08}", "{overlay light.08}",
        "Over what is under the pointer",
    ),
    Meaning(
        "overlay.pressed", "overlay pressed", "{overlay dark.16}", "{overlay light.12}",
        "While it is pressed",
    ),
    Meaning(
        "overlay.scrim", "overlay", "{overlay dark.50}", "{overlay dark.72}", "Behind a dialog"
    ),
)  # fmt: skip
_SAYS = {
    "success": "It went well",
    "warning": "It needs care",
    "error": "It went wrong",
    "information": "Worth knowing",
}


def of_status(status: str) -> tuple[Meaning, ...]:
    """The colors of one status, ``success`` for example."""
    start = f"status.{status}"
    return (
        Meaning(
            f"{start}.text", f"status text {status}", "{S.8}", "{S.4}",
            f"{_SAYS[status]}: words and icons",
        ),
        Meaning(f"{start}.tint", f"status tint {status}", "{S.1}", "{S.10}", "Behind its text"),
        Meaning(f"{start}.line", f"status line {status}", "{S.7}", "{S.5}", "Around its tint"),
        Meaning(f"{start}.fill", f"status fill {status}", "{S.7}", "{S.5}", "Badges and buttons"),
        Meaning(
            f"{start}.label", "label", "{white}", "{N.11}", f"On {start}.fill", f"{start}.fill"
        ),
    )  # fmt: skip


def with_ramps(value: str, **ramps: str) -> str:
    """A value with the names of ramps in place of their letters."""
    for letter, ramp in ramps.items():
        value = value.replace(f"{{{letter}.", f"{{{ramp}.")
    return value
