"""The colors of a dark or light counterpart, settled from the page up."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace

from prism.color import space
from prism.model.document import Document, Pairing
from prism.modes.painted import least_ratio, ratio, solve
from prism.palette import gamut as gamuts
from prism.palette.alternatives import PaletteRows, Step
from prism.palette.course import keeps_hue, oklch
from prism.palette.ramps import as_stored
from prism.resolution.resolver import Resolver, Theme
from prism.roles.grounds import Guess
from prism.roles.role import Role

#: Kinds of roles whose colors stay.
UNCHANGED = frozenset(("other", "unknown", "overlay", "shadow"))
#: Kinds of roles whose colors say something by their hue: no white or black of the palette takes their place.
_WITH_HUE = frozenset(("fill", "status", "text", "focus", "line", "chart"))
Stack = tuple[space.Color, ...]

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
#: How far a step of the palette may lie from the lightness of a level, and by which factor its ratio
#: may differ where nothing has to be reached.
_CLOSE, _ALIKE = 0.03, 1.25


class Counterpart:
    """The colors of the counterpart in one theme."""

    def __init__(
        self,
        document: Document,
        resolver: Resolver,
        theme: Theme,
        guesses: Mapping[str, Guess],
        pairs: Iterable[Pairing],
        dark: bool,
    ) -> None:
        self._dark = dark
        self._gamut = document.gamut
        self._guesses = guesses
        self._now: dict[str, space.Color] = {}
        #: The steps of the palette that each token may take.
        self._steps: dict[str, list[Step]] = {}
        rows = PaletteRows(document, resolver, theme, guesses)
        for token in document.tokens:
            shown = resolver.resolve(token.key, theme).color
            if token.key in guesses and shown is not None:
                self._now[token.key] = shown
                self._steps[token.key] = rows.steps(token)
        #: The color of everything that has a role, and the path of the step it takes, by token key.
        self.colors: dict[str, space.Color] = {}
        self.steps: dict[str, str] = {}
        #: What each color lies on, top first, with the ratio it must reach there.
        self._under: dict[str, list[tuple[tuple[str, ...], float]]] = {}
        for pairing in pairs:
            stack = (*pairing.backgrounds, *filter(None, [pairing.page]))
            self._under.setdefault(pairing.foreground, []).append((stack, pairing.required))
        self._labels: dict[str, list[str]] = {}
        for key, known in guesses.items():
            if known.role.kind == "label" and key in self._now:
                self._labels.setdefault(known.belongs_to, []).append(key)
        self._page = next((k for k, g in guesses.items() if g.role.kind == "page"), "")
        self._levels: dict[str, int] = {}
        for settle in (self._surface, self._fill, self._foreground):
            for key in self._now:
                if key not in self.colors:
                    settle(key, guesses[key].role)

    # What things stand on

    def _surface(self, key: str, role: Role) -> None:
        _, chroma, hue = oklch(self._now[key])
        kind = (role.kind, role.detail)
        if kind == ("status", "tint"):
            at, most = _TINT[self._dark]
            self._put(key, at, min(max(chroma, most / 2), most), hue)
        elif kind == ("surface", "inverse"):
            self._put(key, _INVERSE[self._dark], min(chroma, _SURFACE_CHROMA), hue)
        elif kind in (("page", ""), ("surface", ""), ("fill", "field")):
            leveled = replace(role, level=1) if role.kind == "fill" else role
            self._put(key, self._level(leveled), min(chroma, _SURFACE_CHROMA), hue, role.level)

    def _level(self, role: Role) -> float:
        base, levels = (_DARK, _DARK_LEVELS) if self._dark else (_LIGHT, _LIGHT_LEVELS)
        at = base + levels.get(role.level, 0.0)
        if role.state in ("", "disabled"):
            return at
        return at + (_STATE if self._dark else -_STATE)

    def _fill(self, key: str, role: Role) -> None:
        """Fills that can be seen on the new page stay; others move until they can, states with them."""
        kind = (role.kind, role.detail)
        if role.kind != "fill" and kind not in (("status", "fill"), ("surface", "colored")):
            return
        rest = self._guesses[key].belongs_to
        if role.state and rest in self._now and rest != key:
            if rest not in self.colors:
                self._fill(rest, self._guesses[rest].role)
            if rest in self.colors:
                self._state(key, role, rest)
                return
        self._plain_fill(key, role)

    def _plain_fill(self, key: str, role: Role) -> None:
        color, page = self._now[key], self._stack(self.colors, (self._page,))
        was = self._stack(self._now, (self._page,))
        weak = oklch(color)[1] < _SURFACE_CHROMA and was and ratio(color, was) < 1.5
        if not page or color.alpha < 1:
            self.colors[key] = self._now[key]
        elif weak:  # a quiet fill is a surface
            level = self._level(Role("surface", level=2, state=role.state))
            self._put(key, level, *oklch(color)[1:])
        elif ratio(color, page) >= _FILL:
            self.colors[key] = self._now[key]
        else:
            self._reach(key, [page], _FILL * _MARGIN, _FILL)

    def _state(self, key: str, role: Role, rest: str) -> None:
        """A state as far from the plain one as before, away from the label."""
        lightness, chroma, hue = oklch(self._now[key])
        if role.state == "disabled":
            level = self._level(Role("surface", level=3))
            self._put(key, level, min(chroma, _SURFACE_CHROMA), hue)
            return
        apart = max(abs(lightness - oklch(self._now[rest])[0]), _STATE / 2)
        away = -apart if self._carries_light(rest) else apart
        self._put(key, oklch(self.colors[rest])[0] + away, chroma, hue)

    def _carries_light(self, fill: str) -> bool:
        """Whether the label of a fill is lighter than it: then its states get darker."""
        ground = (self.colors[fill],)
        white, black = (ratio(end, ground) for end in (space.WHITE, space.BLACK))
        for key in self._labels.get(fill, ()):
            label = self._now[key]
            if ratio(label, ground) >= _TEXT * _MARGIN:
                return oklch(label)[0] > oklch(self.colors[fill])[0]
        return white >= black

    # What stands on them

    def _foreground(self, key: str, role: Role) -> None:
        color = self._now[key]
        if role.kind in UNCHANGED:
            return
        stacks, required, was = [], 0.0, math.inf
        for below, needed in self._under.get(key, ()):
            new, old = self._stack(self.colors, below), self._stack(self._now, below)
            if new and old:
                stacks.append(new)
                required, was = max(required, needed), min(was, ratio(color, old))
        if not stacks and self._page in self.colors:  # what has to reach nothing keeps its distance
            ground = self._guesses[key].belongs_to
            ground = ground if ground in self.colors else self._page
            stacks = [self._stack(self.colors, (ground, self._page))]
            was = ratio(color, self._stack(self._now, (ground, self._page)))
        if not stacks:
            return
        if role.kind == "label" and least_ratio(color, stacks) >= required * _MARGIN:
            self.colors[key] = self._now[key]
            return
        self._reach(key, stacks, max(min(was, _ENOUGH), required * _MARGIN, 1.0), required)

    def _stack(self, colors: Mapping[str, space.Color], keys: Sequence[str]) -> Stack:
        """The colors of a stack down to the first opaque one, those of now where there are no new ones;
        empty where a color that is seen is missing."""
        stack: list[space.Color] = []
        for key in keys:
            color = colors.get(key, self._now.get(key))
            if color is None:
                return ()
            stack.append(color)
            if color.alpha >= 1:
                break
        return tuple(stack)

    # Choosing

    def _put(
        self, key: str, lightness: float, chroma: float, hue: float, level: int | None = None
    ) -> None:
        """Give a token a lightness: a step of the palette that is close to it and, for a surface, that
        no other level has taken; else a color of its own."""
        at = min(max(lightness, 0.0), 1.0)

        def far(step: Step) -> float:
            apart = abs(oklch(step.color)[0] - at)
            taken = self._levels.get(step.path, level) != level
            return math.inf if apart > _CLOSE or taken else apart

        if not self._take_step(key, far):
            held = gamuts.held_chroma(at, chroma, hue, self._gamut)
            made = as_stored(space.Color("oklch", (at, held, hue)), self._gamut)
            self.colors[key] = replace(made, alpha=self._now[key].alpha)
        elif level is not None:
            self._levels[self.steps[key]] = level

    def _reach(self, key: str, stacks: Sequence[Stack], wanted: float, required: float) -> None:
        """Give a token a color that stands out by ``wanted`` on all stacks, by ``required`` at least: a
        step of the palette, else the same hue at another lightness."""

        def far(step: Step) -> float:
            reached = least_ratio(step.color, stacks)
            apart = abs(math.log(reached / wanted))
            if reached < required or (not required and apart > math.log(_ALIKE)):
                return math.inf
            return apart

        if not self._take_step(key, far):
            self.colors[key] = solve(
                self._now[key], stacks, wanted, required, lighter=self._dark, gamut=self._gamut
            )

    def _take_step(self, key: str, far: Callable[[Step], float]) -> bool:
        """Let a token refer to the step that is least ``far``, where one is not infinitely so."""
        steps = self._steps[key] if self._now[key].alpha == 1 else []
        if self._guesses[key].role.kind in _WITH_HUE:
            steps = [step for step in steps if keeps_hue(self._now[key], step.color)]
        best = min(steps, key=far, default=None)
        if best is None or far(best) == math.inf:
            return False
        self.colors[key], self.steps[key] = best.color, best.path
        return True
