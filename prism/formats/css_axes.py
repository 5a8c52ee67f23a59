"""The axes and modes that the selectors and media conditions of a style sheet ask for."""

from __future__ import annotations

from collections.abc import Collection, Iterable

from prism.formats.css import FEATURES
from prism.formats.css_selectors import Meaning, Picks
from prism.formats.layers import NewKey
from prism.model.document import Axis, Follows, Mode

_LIGHT_DARK = ("light", "dark")


class AxesOfRules:
    """Collects axes rule by rule, in the order of the style sheet."""

    def __init__(self) -> None:
        self._modes: dict[str, dict[str, None]] = {}
        self._base_modes: dict[str, str] = {}
        self._color_schemes: dict[tuple[str, str], str] = {}
        self._follows: dict[str, tuple[str, dict[str, str]]] = {}

    def add(self, meaning: Meaning, beside_base: bool) -> None:
        """Add what one selector means; ``beside_base`` where its rule holds for the page too."""
        for axis, mode in meaning.picks:
            self._modes.setdefault(axis, {})[mode] = None
            if beside_base and len(meaning.picks) == 1:
                self._base_modes.setdefault(axis, mode)
        for axis, feature, value in meaning.follows:
            followed, modes = self._follows.setdefault(axis, (feature, {}))
            if followed == feature:
                modes[value] = dict(meaning.picks)[axis]

    def set_color_scheme(self, meaning: Meaning, value: str) -> None:
        """Give the mode that a selector means the value of its ``color-scheme``."""
        word = value.strip().split(" ")[-1].lower()
        if word in _LIGHT_DARK and len(meaning.picks) == 1:
            self._color_schemes[meaning.picks[0]] = word

    @property
    def appearance(self) -> str:
        """The name of the axis with a light or dark mode, ``appearance`` where there is none."""
        names = (axis for axis, modes in self._modes.items() if {*_LIGHT_DARK} & set(modes))
        return next(names, "appearance")

    def add_light_dark(self, axis: str) -> None:
        """Add the modes of ``light-dark()`` to an axis, which follows the system."""
        self._modes.setdefault(axis, {}).update(dict.fromkeys(_LIGHT_DARK))
        follows = dict(zip(_LIGHT_DARK, _LIGHT_DARK, strict=True))
        self._follows.setdefault(axis, ("prefers-color-scheme", follows))

    def build(self, conditions: Iterable[Collection[Picks]], new_key: NewKey) -> tuple[Axis, ...]:
        """The axes. ``conditions`` are those of each property, in the order of the rules."""
        return tuple(self._axis(name, new_key()) for name in self._ordered(conditions))

    def _ordered(self, conditions: Iterable[Collection[Picks]]) -> list[str]:
        """Names of the axes, so that of two equally specific rules the later one wins.

        Where the rules of a style sheet ask for no one order, the axes keep their own.
        """
        after: dict[str, set[str]] = {name: set() for name in self._modes}
        for of_property in conditions:
            sets = [frozenset(axis for axis, _ in picks) for picks in of_property]
            for i, earlier in enumerate(sets):
                for later in sets[i + 1 :]:
                    if len(earlier) == len(later) and len(later - earlier) == 1:
                        after[next(iter(later - earlier))].update(earlier - later)
        ordered: list[str] = []
        while len(ordered) < len(after):
            free = [n for n in after if n not in ordered and after[n] <= set(ordered)]
            if not free:
                return list(self._modes)
            ordered.append(free[0])
        return ordered

    def _axis(self, name: str, key: str) -> Axis:
        modes = list(self._modes[name])
        default = self._base_modes.get(name)
        if default is None:
            default = "light" if {*_LIGHT_DARK} & set(modes) else "standard"
            modes = [default, *(mode for mode in modes if mode != default)]
        feature, values = self._follows.get(name, ("", {}))
        return Axis(
            key,
            name,
            tuple(
                Mode(mode, mode, color_scheme=self._color_schemes.get((name, mode), ""))
                for mode in modes
            ),
            default,
            follows=Follows(feature, tuple(values.items())) if feature in FEATURES else None,
        )
