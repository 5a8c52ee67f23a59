"""Roles: what a token is for, as a few words with a fixed order."""

from __future__ import annotations

from dataclasses import dataclass

from prism.errors import PrismError

#: Kinds of roles, and the details that each can have.
KINDS: dict[str, tuple[str, ...]] = {
    "page": (),
    "surface": ("inverse", "colored"),
    "text": ("quiet", "hint", "link", "disabled", "inverse"),
    "label": (),
    "icon": (),
    "fill": ("action", "accent", "field"),
    "line": ("soft", "strong", "control"),
    "focus": (),
    "status": ("text", "fill", "tint", "line"),
    "overlay": (),
    "shadow": (),
    "chart": (),
    "other": (),
    "unknown": (),
}
STATUSES = ("success", "warning", "error", "information")
STATES = ("hover", "pressed", "selected", "focus", "disabled")


@dataclass(frozen=True, slots=True)
class Role:
    """What a token is for. Empty parts are left out of its text: ``fill action hover``.

    ``level`` is that of a surface: -1 sunken, 0 the page, then upwards; it is no part of the text.
    """

    kind: str
    detail: str = ""
    status: str = ""
    state: str = ""
    level: int = 0

    def __str__(self) -> str:
        return " ".join(filter(None, (self.kind, self.detail, self.status, self.state)))

    @property
    def is_ground(self) -> bool:
        """Whether something can stand on it."""
        return self.kind in ("page", "surface", "fill") or (
            self.kind == "status" and self.detail in ("fill", "tint")
        )

    @property
    def is_against(self) -> bool:
        """Whether it is a surface that stands against the page, or is colored."""
        return self.kind == "surface" and bool(self.detail)


UNKNOWN = Role("unknown")


def stored(text: str) -> str:
    """The text of a role as it is stored; empty stays so. Raises ``PrismError`` for what is none."""
    return str(read(text)) if text.strip() else ""


def every() -> list[str]:
    """The roles that can be chosen, without states."""
    roles = []
    for kind, details in KINDS.items():
        for detail in ("", *details) if kind != "status" else details:
            for status in STATUSES if kind == "status" else ("",):
                roles.append(str(Role(kind, detail, status)))
    return [role for role in roles if role not in ("fill", "unknown")]


def known(text: str) -> Role | None:
    """The role that a stored text names, or None where no one of today is called so."""
    try:
        return read(text) if text else None
    except PrismError:
        return None


def read(text: str) -> Role:
    """The role that a text names. Raises ``PrismError`` for anything else."""
    kind, *words = text.split() or [""]
    parts = {"detail": "", "status": "", "state": ""}
    for word in words:
        for part, known in (
            ("detail", KINDS.get(kind, ())),
            ("status", STATUSES if kind == "status" else ()),
            ("state", STATES),
        ):
            if word in known and not parts[part]:
                parts[part] = word
                break
        else:
            kind = ""
    if kind not in KINDS or (kind == "status") is not bool(parts["status"]):
        raise PrismError(f"“{text[:60]}” is not a role.", fix=f"Kinds: {', '.join(KINDS)}.")
    return Role(kind, parts["detail"], parts["status"], parts["state"])
