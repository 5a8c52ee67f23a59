"""What is demanded of the colors of a document: that pairings pass, levels rise, states go one way, what means
different things is not one color, and equal things stay equal.

Requirements: those of the pairings (WCAG 2.2, 1.4.3 and 1.4.11). How far levels and states lie apart is
common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from prism.color import space
from prism.color.contrast import contrast_ratio, flatten, lightness
from prism.color.difference import delta_e_2000, lab
from prism.model.document import Document, Pairing
from prism.resolution.answer_tables import AnswerTables, Fixed
from prism.resolution.contrast import CANVAS
from prism.resolution.resolver import Resolver, Theme
from prism.roles import different
from prism.roles.grounds import Guess
from prism.solver.levels import rank
from prism.solver.places import Colors, Decided, Places
from prism.solver.problem import Demand, Problem, Table, merged

#: Neighboring levels lie at least so far apart in L*, and a state from the one before.
LEVEL_GAP, STATE_GAP = 2.0, 1.0
#: What it costs where levels do not rise, or states turn back.
_LEVEL, _STATE = 20_000, 6_000
#: What it costs where two things that were told apart become one.
_APART = 12_000
#: Kinds of roles of which equal ones may part.
_PARTING = ("page", "surface", "unknown", "other")
_STATES = ("", "hover", "pressed", "selected")
#: The combinations of a stack that are computed at most; what lies further down stays as it is.
_MOST = 40_000


@dataclass(frozen=True, slots=True)
class Asked:
    """What is judged: pairings, with the roles of tokens; in themes of the modes ``within``, by axis.
    ``like`` are the modes that these are made from, empty for none. Pairings at the places ``aside`` need not
    pass where they fall short, and get no worse; ``levels`` says whether levels and states that are not in order
    are to be put in order."""

    pairs: Sequence[Pairing]
    guesses: Mapping[str, Guess]
    within: Mapping[str, str]
    like: Mapping[str, str]
    aside: frozenset[int] = frozenset()
    levels: bool = True


class Demands:
    """The demands on a document's colors, and its slots."""

    def __init__(self, asked: Asked, places: Places, tables: AnswerTables) -> None:
        self.asked = asked
        self.places = places
        self.resolver: Resolver = places.resolver
        self.document: Document = places.document
        self._tables = tables
        self._known: dict[tuple[object, ...], Table] = {}
        #: Pairings that fall short in a theme where nothing that decides them can be moved.
        self.stuck: dict[str, Theme] = {}

    def problem(self) -> Problem:
        """All demands. Pairings are hard, each a group by its place among them."""
        made = [
            demand
            for group, pairing in enumerate(self.asked.pairs)
            if pairing.required > 0
            for demand in self._pairing(group, pairing)
        ]
        order = [*self._levels(), *self._states(), *self._different()]
        if not self.asked.levels:  # what is only fixed keeps the order that it has
            zeros = [0] * len(self.places.slots)
            order = [demand for demand in order if any(demand.met_by(zeros))]
        made += [*order, *self._in_step()]
        costs = tuple(tuple(slot.costs) for slot in self.places.slots)
        return Problem(costs, merged(made))

    def _in_step(self) -> Iterator[Demand]:
        """Where a slot takes the color of a token that another slot decides, that one stays as it is."""
        slots = self.places.slots
        deciding: dict[str, list[int]] = {}
        for number, slot in enumerate(slots):
            deciding.setdefault(slot.place.token, []).append(number)
        for number, slot in enumerate(slots):
            for key in {key for key in slot.keys if key and key != slot.place.token}:
                reached = {key, *self.resolver.graph.reach({key})}
                for other in sorted(n for token in reached for n in deciding.get(token, ())):
                    if other != number and len(slots[other].values) > 1:
                        table = np.ones((len(slot.values), len(slots[other].values)), dtype=bool)
                        table[[i for i, own in enumerate(slot.keys) if own == key], 1:] = False
                        yield Demand((number, other), (table,))

    def themes(self, keys: Iterable[str]) -> list[Theme]:
        """A theme of each part of all that count in which the tokens have one color each."""
        index = self.resolver.axis_index
        fixed = [
            (index[axis], self.resolver.mode_index[index[axis]][mode])
            for axis, mode in self.asked.within.items()
        ]
        there = [key for key in keys if self.document.token(key) is not None]
        themes: dict[Theme, None] = {}
        for part in self._tables.joint(there):
            if all(part[axis] in (-1, mode) for axis, mode in fixed):
                themes[self._theme(part, fixed)] = None
        return list(themes)

    def _theme(self, part: Fixed, fixed: Sequence[tuple[int, int]]) -> Theme:
        theme = list(self._tables.theme(part))
        for axis, mode in fixed:
            theme[axis] = mode
        return tuple(theme)

    # Pairings

    def _pairing(self, group: int, pairing: Pairing) -> Iterator[Demand]:
        keys = [pairing.foreground, *pairing.backgrounds, *([pairing.page] if pairing.page else [])]
        if any(self.document.token(key) is None for key in keys):
            return
        for theme in self.themes(keys):
            stack = self._stack(keys, theme)
            if stack is None:
                continue
            slots, layers = self._layers(stack, theme)
            aside = group in self.asked.aside
            table = self._passing(slots, layers, stack, theme, (pairing.required, aside))
            if slots:
                yield Demand(slots, (table,), group=group)
            elif not table.all():
                self.stuck.setdefault(pairing.key, theme)

    def _stack(self, keys: Sequence[str], theme: Theme) -> list[Decided] | None:
        """What decides each layer of a pairing, top first, down to an opaque one; None where one has no
        color."""
        stack: list[Decided] = []
        for key in keys:
            decided = self.places.decided(key, theme)
            if decided.color is None:
                return None
            stack.append(decided)
            if len(stack) > 1 and decided.color[3] >= 1:
                return stack
        return [*stack, Decided(color=CANVAS)]

    def _layers(
        self, stack: Sequence[Decided], theme: Theme
    ) -> tuple[tuple[int, ...], list[Colors]]:
        """The slots of a stack, and its layers as arrays with an axis for each of them."""
        slots: list[int] = []
        size = 1
        for layer in stack:
            if layer.slot >= 0 and layer.slot not in slots:
                count = len(self.places.slots[layer.slot].values)
                if size * count <= _MOST:
                    slots.append(layer.slot)
                    size *= count
                else:
                    self.places.computes = True
        layers = []
        for layer in stack:
            assert layer.color is not None
            if layer.slot in slots:
                shape = [1] * len(slots)
                shape[slots.index(layer.slot)] = -1
                layers.append(self.places.colors(layer.slot, theme).reshape(*shape, 4))
            else:
                layers.append(np.array(layer.color).reshape(*[1] * len(slots), 4))
        return tuple(slots), layers

    def _passing(
        self,
        slots: tuple[int, ...],
        layers: Sequence[Colors],
        stack: Sequence[Decided],
        theme: Theme,
        needs: tuple[float, bool],
    ) -> Table:
        """Where a stack reaches the ratio it needs, or, where it may, the one it has, an axis for each slot."""
        named = tuple(
            (layer.slot, self.places.colors(layer.slot, theme).tobytes())
            if layer.slot in slots
            else layer.color
            for layer in stack
        )
        key = (named, needs)
        if key not in self._known:
            above = flatten(layers)[..., :3]
            below = flatten(layers[1:])[..., :3]
            sizes = [len(self.places.slots[slot].values) for slot in slots]
            ratios = np.asarray(contrast_ratio(above, below))
            required, may_stay = needs
            least = min(required, float(ratios.flat[0])) if may_stay else required
            self._known[key] = np.broadcast_to(ratios >= least, sizes)
        return self._known[key]

    # Levels, states and equals

    def _levels(self) -> Iterator[Demand]:
        """Neighboring levels apart; in the dark the higher one lighter, else in the order they have."""
        ranks: dict[int, list[str]] = {}
        for key, known in self.asked.guesses.items():
            role = known.role
            token = self.document.token(key)
            plain = role.kind == "page" or (role.kind == "surface" and not role.detail)
            if token is not None and token.tier == "semantic" and plain and not role.state:
                ranks.setdefault(rank(token, role), []).append(key)
        heights = sorted(ranks)
        for lower, upper in pairwise(heights):
            for under in ranks[lower]:
                for over in ranks[upper]:
                    yield from self._risen(under, over)

    def _risen(self, under: str, over: str) -> Iterator[Demand]:
        for theme in self.themes([under, over]):
            lights = self._lights([under, over], theme)
            if lights is None or not self._are_plain(lights[0]):
                continue
            slots, (low, high) = lights
            now = float(high.flat[0] - low.flat[0])
            if self._is_dark(theme):
                table = high - low >= LEVEL_GAP
            elif abs(now) >= LEVEL_GAP:
                table = (high - low) * np.sign(now) >= LEVEL_GAP
            else:
                continue  # by day a line or a shadow may part them
            yield Demand(slots, (np.asarray(table),), weight=_LEVEL)

    def _are_plain(self, slots: Sequence[int]) -> bool:
        """Whether what decides is plain surfaces all through, not the tint of a status."""
        roles = [
            self.asked.guesses[token].role.kind
            for token in (self.places.slots[slot].place.token for slot in slots)
            if token in self.asked.guesses
        ]
        return all(kind in ("page", "surface") for kind in roles)

    def _is_dark(self, theme: Theme) -> bool:
        page = next((k for k, known in self.asked.guesses.items() if known.role.kind == "page"), "")
        color = self.resolver.resolve(page, theme).color if page else None
        return color is not None and float(lightness(np.array(space.rgba(color)[:3]))) < 50

    def _states(self) -> Iterator[Demand]:
        """States of a fill that get lighter, or darker, one after the other, do so again."""
        families: dict[str, dict[str, str]] = {}
        for key, known in self.asked.guesses.items():
            owner = self.asked.guesses.get(known.belongs_to)
            if known.role.state in _STATES[1:] and owner and owner.role.kind == known.role.kind:
                families.setdefault(known.belongs_to, {}).setdefault(known.role.state, key)
        for number, (rest, states) in enumerate(families.items()):
            chain = [rest, *(states[state] for state in _STATES[1:] if state in states)]
            for place, theme in enumerate(self.themes(chain)):
                family = number * 1000 + place
                for before, after in pairwise(chain):
                    if not self._goes_on(chain, theme):
                        break
                    lights = self._lights([before, after], theme)
                    if lights is not None:
                        slots, (first, second) = lights
                        ways = (second - first >= STATE_GAP, first - second >= STATE_GAP)
                        tables = tuple(np.asarray(way) for way in ways)
                        yield Demand(slots, tables, weight=_STATE, family=family)

    def _goes_on(self, chain: Sequence[str], theme: Theme) -> bool:
        """Whether the states of a fill go one way where they come from, or now without such a mode."""
        picks = {**self.resolver.picks(theme), **self.asked.like}
        there = self.resolver.theme(picks)
        colors = [self.resolver.resolve(key, there).color for key in chain]
        if None in colors:
            return False
        lights = lightness(np.array([space.rgba(color)[:3] for color in colors if color]))
        steps = np.diff(lights)
        return bool((steps > 0.2).all() or (steps < -0.2).all())

    def _different(self) -> Iterator[Demand]:
        """Colors that mean different things, told apart where they come from, or now without such a mode, stay apart."""
        for family, one, other in different.pairs(self.document, self.asked.guesses).pairs:
            if family not in different.NEVER_ONE:
                continue  # levels have a demand of their own; texts may draw together where contrast is lowered
            for theme in self.themes([one.key, other.key]):
                if not self._told_apart(one.key, other.key, theme):
                    continue
                stack = [self.places.decided(key, theme) for key in (one.key, other.key)]
                if any(layer.color is None or layer.color[3] < 1 for layer in stack):
                    continue
                slots, (first, second) = self._layers(stack, theme)
                if slots:
                    sizes = [len(self.places.slots[slot].values) for slot in slots]
                    apart = delta_e_2000(lab(first[..., :3]), lab(second[..., :3]))
                    table = np.broadcast_to(apart >= different.TOLD_APART, sizes)
                    yield Demand(slots, (np.asarray(table),), weight=_APART)

    def _told_apart(self, one: str, other: str, theme: Theme) -> bool:
        there = self.resolver.theme({**self.resolver.picks(theme), **self.asked.like})
        first, second = (self.resolver.resolve(key, there).color for key in (one, other))
        if first is None or second is None:
            return False
        labs = (lab(np.array(space.rgba(color)[:3])) for color in (first, second))
        return float(delta_e_2000(*labs)) >= different.TOLD_APART

    def _lights(
        self, keys: Sequence[str], theme: Theme
    ) -> tuple[tuple[int, ...], list[NDArray[np.float64]]] | None:
        """The lightness of opaque tokens by the candidates of their slots; None where nothing moves."""
        stack = [self.places.decided(key, theme) for key in keys]
        if any(layer.color is None or layer.color[3] < 1 for layer in stack):
            return None
        slots, layers = self._layers(stack, theme)
        if not slots:
            return None
        sizes = [len(self.places.slots[slot].values) for slot in slots]
        return slots, [
            np.broadcast_to(np.asarray(lightness(layer[..., :3])), sizes) for layer in layers
        ]

    def equals(self) -> list[list[int]]:
        """Slots that hold the same value for the same purpose, which they go on to: apart from surfaces,
        which must part."""
        groups: dict[tuple[object, ...], list[int]] = {}
        for number, slot in enumerate(self.places.slots):
            known = self.asked.guesses.get(slot.place.token)
            if known is None or known.role.kind in _PARTING or len(slot.values) == 1:
                continue
            role = known.role
            key = (
                slot.values[0],
                slot.place.condition,
                role.kind,
                role.detail,
                role.status,
                role.state,
            )
            groups.setdefault((*key, tuple(slot.keys[1:])), []).append(number)
        return [numbers for numbers in groups.values() if len(numbers) > 1]
