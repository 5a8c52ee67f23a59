"""The colors of a dark or light counterpart, settled from the page up."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from prism.color import space
from prism.color.contrast import ratio_of_luminances, relative_luminance
from prism.model.document import Document, Pairing
from prism.palette import gamut as gamuts
from prism.palette.course import oklch
from prism.palette.ramps import as_stored
from prism.resolution.resolver import Resolver, Theme
from prism.roles.grounds import Guess
from prism.roles.role import Role

Array = NDArray[np.float64]

#: OKLab lightness of the page and what each level of elevation adds, in a dark and in a light mode.
_DARK, _DARK_LEVELS = 0.18, {-1: -0.035, 0: 0.0, 1: 0.035, 2: 0.065, 3: 0.09, 4: 0.11}
_LIGHT, _LIGHT_LEVELS = 0.975, {-1: -0.025, 0: 0.0, 1: 0.015, 2: 0.02, 3: 0.025, 4: 0.025}
_INVERSE = {True: 0.94, False: 0.25}
_TINT = {True: (0.27, 0.06), False: (0.95, 0.03)}
#: Chroma that surfaces keep at most, and how far a state lies from the plain one.
_SURFACE_CHROMA, _STATE = 0.025, 0.04
#: A fill is told from the page from this ratio on.
_FILL, _TEXT = 3.0, 4.5
#: How far above what it must reach a color aims, and the ratio that is enough for any text.
_MARGIN, _ENOUGH = 1.02, 15.0
_GRID = np.linspace(0.0, 1.0, 513)


class Counterpart:
    """The colors of the counterpart, settled from the page up."""

    def __init__(
        self,
        document: Document,
        resolver: Resolver,
        theme: Theme,
        guesses: Mapping[str, Guess],
        pairs: Sequence[Pairing],
        dark: bool,
    ) -> None:
        self.dark = dark
        self.gamut = document.gamut
        self.guesses = guesses
        self.now: dict[str, space.Color] = {}
        for token in document.tokens:
            color = resolver.resolve(token.key, theme).color
            if token.key in guesses and color is not None:
                self.now[token.key] = color
        self.new: dict[str, space.Color] = {}
        #: What each color stands on, by key, with the ratio it must reach there.
        self.under: dict[str, list[tuple[str, float]]] = {}
        for pairing in pairs:
            if len(pairing.backgrounds) == 1:
                below = (pairing.backgrounds[0], pairing.required)
                self.under.setdefault(pairing.foreground, []).append(below)
        self.labels: dict[str, list[str]] = {}
        for key, known in guesses.items():
            if known.role.kind == "label" and key in self.now:
                self.labels.setdefault(known.belongs_to, []).append(key)
        self._known: dict[tuple[object, ...], space.Color] = {}
        self.page = next((k for k, g in guesses.items() if g.role.kind == "page"), "")

    def colors(self) -> dict[str, space.Color]:
        """The color of everything that has a role, by token key."""
        for settle in (self._surface, self._fill, self._foreground):
            for key in self.now:
                if key not in self.new:
                    settle(key, self.guesses[key].role)
        return self.new

    # What things stand on

    def _surface(self, key: str, role: Role) -> None:
        _, chroma, hue = oklch(self.now[key])
        if role.kind == "status" and role.detail == "tint":
            at, most = _TINT[self.dark]
            self._put(key, at, min(max(chroma, most / 2), most), hue)
        elif role.kind == "surface" and role.detail == "inverse":
            self._put(key, _INVERSE[self.dark], min(chroma, _SURFACE_CHROMA), hue)
        elif role.kind == "page" or (role.kind == "surface" and not role.detail):
            self._put(key, self._level(role), min(chroma, _SURFACE_CHROMA), hue)
        elif role.kind == "fill" and role.detail == "field":
            self._put(key, self._level(replace(role, level=1)), min(chroma, _SURFACE_CHROMA), hue)

    def _level(self, role: Role) -> float:
        base, levels = (_DARK, _DARK_LEVELS) if self.dark else (_LIGHT, _LIGHT_LEVELS)
        at = base + levels.get(role.level, 0.0)
        if role.state == "disabled":
            return at
        return at + (_STATE if self.dark else -_STATE) if role.state else at

    def _fill(self, key: str, role: Role) -> None:
        """Fills that can be seen on the new page stay; others move until they can, states with them."""
        full = role.kind == "status" and role.detail == "fill"
        if not (
            role.kind in ("fill",) or full or (role.kind, role.detail) == ("surface", "colored")
        ):
            return
        rest = self.guesses[key].belongs_to
        if role.state and rest in self.now and rest != key:
            self._fill(rest, self.guesses[rest].role)
            self._state(key, role, rest)
            return
        if key in self.new:
            return
        color = self.now[key]
        page = self.new.get(self.page)
        weak = oklch(color)[1] < _SURFACE_CHROMA and _ratio(color, self.now.get(self.page)) < 1.5
        if page is None or color.alpha < 1:
            self.new[key] = color
        elif weak:  # a quiet fill is a surface
            self._put(
                key, self._level(Role("surface", level=2, state=role.state)), *oklch(color)[1:]
            )
        elif _ratio(color, page) >= _FILL:
            self.new[key] = color
        else:
            self.new[key] = self._solved(color, [page], _FILL * _MARGIN)

    def _state(self, key: str, role: Role, rest: str) -> None:
        """A state as far from the plain one as before, towards what can be seen."""
        lightness, chroma, hue = oklch(self.now[key])
        if role.state == "disabled":
            self._put(key, self._level(Role("surface", level=3)), min(chroma, _SURFACE_CHROMA), hue)
            return
        plain = self.new[rest]
        apart = max(abs(lightness - oklch(self.now[rest])[0]), _STATE / 2)
        away = -apart if self._carries_light(rest) else apart
        self._put(key, oklch(plain)[0] + away, chroma, hue)

    def _carries_light(self, fill: str) -> bool:
        """Whether the label of a fill is lighter than it: then its states get darker."""
        white, black = (_ratio(self.new[fill], end) for end in (space.WHITE, space.BLACK))
        for key in self.labels.get(fill, ()):
            label = self.now[key]
            if _ratio(label, self.new[fill]) >= _TEXT * _MARGIN:
                return _luminance(label) > _luminance(self.new[fill])
        return white >= black

    # What stands on them

    def _foreground(self, key: str, role: Role) -> None:
        color = self.now[key]
        if role.kind in ("other", "unknown", "overlay", "shadow") or color.alpha < 1:
            return
        grounds = [
            (self.new.get(k, self.now.get(k)), self.now.get(k), r)
            for k, r in self.under.get(key, ())
        ]
        known = [
            (new, old, required)
            for new, old, required in grounds
            if new is not None and old is not None
        ]
        if not known and self.page in self.new:  # what has to reach nothing keeps its distance
            ground = self._ground_of(key)
            known = [(self.new[ground], self.now[ground], 0.0)]
        if not known:
            return
        required = max(required for *_, required in known)
        was = min(_ratio(color, old) for _, old, _ in known)
        wanted = max(min(was, _ENOUGH), required * _MARGIN, 1.0)
        below = [new for new, *_ in known]
        kept = min(_ratio(color, new) for new in below)
        if role.kind == "label" and kept >= required * _MARGIN:
            self.new[key] = color
            return
        self.new[key] = self._solved(color, below, wanted, required)

    def _ground_of(self, key: str) -> str:
        belongs = self.guesses[key].belongs_to
        return belongs if belongs in self.new else self.page

    # Colors

    def _put(self, key: str, lightness: float, chroma: float, hue: float) -> None:
        at = min(max(lightness, 0.0), 1.0)
        most = float(gamuts.most_chroma(np.array([at]), np.array([hue]), self.gamut)[0])
        made = as_stored(space.Color("oklch", (at, min(chroma, most), hue)), self.gamut)
        self.new[key] = replace(made, alpha=self.now[key].alpha)

    def _solved(
        self,
        color: space.Color,
        grounds: Sequence[space.Color],
        wanted: float,
        required: float = 0.0,
    ) -> space.Color:
        """The color of the same hue that reaches ``wanted`` on all grounds, as close to them as it
        can; else what reaches most."""
        asked = (color, tuple(dict.fromkeys(grounds)), round(wanted, 4), required)
        if asked not in self._known:
            self._known[asked] = self._solve(*asked)
        return self._known[asked]

    def _solve(
        self, color: space.Color, grounds: Sequence[space.Color], wanted: float, required: float
    ) -> space.Color:
        _, chroma, hue = oklch(color)
        chromas, luminances = _course(round(hue, 1), round(chroma, 3), self.gamut)
        below = np.array([_luminance(ground) for ground in grounds])
        ratios = np.min(ratio_of_luminances(luminances[:, None], below[None, :]), axis=1)
        lighter = luminances > below.max()
        for side in (
            (lighter, luminances < below.min())
            if self.dark
            else (luminances < below.min(), lighter)
        ):
            for aim in dict.fromkeys((wanted, required * _MARGIN)):
                places = np.flatnonzero(side & (ratios >= aim))
                if aim and len(places):
                    near = places[np.argsort(ratios[places])]
                    for place in near[:8]:
                        made = self._at(place, chromas, hue)
                        if min(_ratio(made, ground) for ground in grounds) >= min(
                            aim, required or aim
                        ):
                            return made
        return self._at(int(np.argmax(ratios)), chromas, hue)

    def _at(self, place: int, chromas: Array, hue: float) -> space.Color:
        color = space.Color("oklch", (float(_GRID[place]), float(chromas[place]), hue))
        return as_stored(color, self.gamut)


@lru_cache(maxsize=512)
def _course(hue: float, chroma: float, gamut: str) -> tuple[Array, Array]:
    """Chroma and relative luminance of a hue over lightness, shapes (513,)."""
    hues = np.full_like(_GRID, hue)
    chromas = np.minimum(chroma, gamuts.most_chroma(_GRID, hues, gamut))
    return chromas, gamuts.luminance(_GRID, chromas, hues)


@lru_cache(maxsize=4096)
def _luminance(color: space.Color) -> float:
    return float(relative_luminance(space.rgba(color)[:3]))


def _ratio(first: space.Color, second: space.Color | None) -> float:
    if second is None:
        return 1.0
    return float(ratio_of_luminances(_luminance(first), _luminance(second)))
