"""What an import keeps of the files that it read."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Entry:
    """One line of an imported tree, in file order.

    ``token`` is a token's key, or empty for a group; ``path`` where it stood; ``text`` the
    JSON object as it came, without members for a group. ``hidden`` marks a value that a
    later layer overrides in every theme, ``folded`` one that became the base value.
    """

    path: str
    text: str
    token: str = ""
    hidden: bool = False
    folded: bool = False


@dataclass(frozen=True, slots=True)
class Source:
    """One imported token tree. ``file`` is its name, empty where it was written inline."""

    key: str
    file: str = ""
    entries: tuple[Entry, ...] = ()


@dataclass(frozen=True, slots=True)
class Layer:
    """One step of an import's resolution order.

    A set (``axis`` empty) with its sources, or a modifier: the axis key and the sources of
    each mode. ``text`` is JSON with the members this product gives no meaning to;
    ``stated_default`` tells whether the file named the default.
    """

    key: str
    name: str
    axis: str = ""
    description: str = ""
    sources: tuple[str, ...] = ()
    contexts: tuple[tuple[str, tuple[str, ...]], ...] = ()
    stated_default: bool = True
    text: str = ""
