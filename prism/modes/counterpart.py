"""A dark or light counterpart of a mode, by what each color is for.

The page and its surfaces get new levels; fills stay where they can be seen; every text, icon, line and
focus keeps its hue and takes the lightness at which it stands out on all it lies on as much as before,
and at least as much as it must: a step of its palette where one does, else a color of its own. It asks
roles alone, and needs no palette.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import product

from prism.changes.axes import add_axis, add_mode
from prism.changes.values import set_values
from prism.color import space
from prism.color.contrast import truncate_ratio
from prism.errors import EditError
from prism.expressions.values import references
from prism.model.document import Axis, Document, Mode, Pairing
from prism.model.values import Condition, Expression, Value
from prism.modes.counterpart_colors import UNCHANGED, Counterpart
from prism.modes.draft import Row
from prism.palette.course import oklch
from prism.resolution.contrast import Reading, audit
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver, Theme
from prism.roles import rules
from prism.roles.grounds import Guess
from prism.roles.guess import guess
from prism.roles.role import Role

#: Themes of other axes for which colors are chosen; of more, those that differ on one axis alone.
MOST_THEMES = 24
Picks = Mapping[str, str]


@dataclass(frozen=True, slots=True)
class Short:
    """A pairing that falls short in a theme, what was read, and why, empty where that was not asked."""

    pairing: Pairing
    reading: Reading
    why: str = ""


@dataclass(frozen=True, slots=True)
class NewMode:
    """Where a counterpart goes: the keys of the axis and of the mode to start from, and what the new
    mode is called. Without an axis a new one, called ``axis_name``, takes the values that are there
    as its first mode, called as ``source`` says."""

    axis: str = ""
    source: str = ""
    name: str = ""
    axis_name: str = "appearance"
    key: str = "proposed"


@dataclass(frozen=True, slots=True)
class Proposal:
    """The document with the proposed mode, the key of its axis and mode, the values in it by token key
    and condition, the pairings that were judged, and which of them fall short: before, in the mode
    it comes from, and after."""

    document: Document
    axis: str
    mode: str
    values: Mapping[str, Mapping[Condition, Value]]
    pairs: tuple[Pairing, ...]
    before: tuple[Short, ...]
    after: tuple[Short, ...]


def propose(
    document: Document,
    resolver: Resolver,
    guesses: Mapping[str, Guess],
    *,
    dark: bool,
    place: NewMode,
) -> Proposal:
    """A counterpart of a mode, in every theme of the other axes. Raises ``EditError`` where that mode
    is gone, or the name is taken."""
    owner = document.axis(place.axis)
    if place.axis and (owner is None or all(mode.key != place.source for mode in owner.modes)):
        raise EditError("The mode to start from is no longer there.")
    made_from, pairs = _pairs(document, guesses)
    trial = _Trial(document, place, dark)
    themes = list(_themes(resolver, place, guesses))
    for other in themes:
        was = resolver.theme({**other, **trial.start})
        chosen = Counterpart(document, resolver, was, guesses, made_from, dark)
        trial.settle(resolver, was, other, chosen)
    before = [resolver.theme({**other, **trial.start}) for other in themes]
    after = [trial.after.theme({**other, **trial.end}) for other in themes]
    return Proposal(
        trial.after.document,
        trial.axis,
        place.key,
        trial.values,
        pairs,
        tuple(_falling_short(resolver, pairs, before)),
        tuple(
            Short(short.pairing, short.reading, _why(short, resolver, guesses))
            for short in _falling_short(trial.after, pairs, after)
        ),
    )


def _pairs(
    document: Document, guesses: Mapping[str, Guess]
) -> tuple[tuple[Pairing, ...], tuple[Pairing, ...]]:
    """The pairings that colors are chosen by, and those that they are judged by: the latter are also those that a
    style sheet shows, whose two colors no role may have brought together."""
    said = replace(document, pairings=tuple(p for p in document.pairings if not rules.is_shown(p)))
    judged = rules.joined(said, rules.kept(said, guesses))
    pairs = (*judged.pairings, *(made.pairing for made in rules.pairings(judged, guesses)))
    known = {(pairing.foreground, pairing.backgrounds[:1]) for pairing in pairs}
    shown = (p for p in document.pairings if rules.is_shown(p))
    return pairs, (*pairs, *(p for p in shown if (p.foreground, p.backgrounds) not in known))


class _Trial:
    """The document with the new mode, and the values settled in it so far."""

    def __init__(self, document: Document, place: NewMode, dark: bool) -> None:
        scheme, other = ("dark", "light") if dark else ("light", "dark")
        mode = Mode(place.key, place.name or scheme, color_scheme=scheme)
        if place.axis:
            self.axis = place.axis
            started = add_mode(document, place.axis, mode, place.source)
        else:
            self.axis = f"{place.key}-axis"
            first = Mode(f"{place.key}-from", place.source or other, color_scheme=other)
            axis = Axis(self.axis, place.axis_name, (first, mode), first.key)
            started = add_axis(document, axis)
        #: What the new mode, and the one it is made from, picks on its axis.
        self.end: dict[str, str] = {self.axis: place.key}
        self.start: dict[str, str] = {place.axis: place.source} if place.axis else {}
        self.values: dict[str, dict[Condition, Value]] = {}
        self.after = resolver_of(started)

    def settle(self, before: Resolver, was: Theme, other: Picks, chosen: Counterpart) -> None:
        """Store the colors chosen for one theme of the other axes. What refers to others comes last, and
        follows them where that gives the color that was chosen."""
        refers = [
            key
            for key in chosen.colors
            if (won := before.winner(key, was)) and any(references(won[1], "color"))
        ]
        others = set(refers)
        self._store(chosen, other, [key for key in chosen.colors if key not in others])
        # A token may follow one that follows another, whose color is only set now.
        while self._store(chosen, other, refers):
            pass

    def _store(self, chosen: Counterpart, other: Picks, keys: Iterable[str]) -> bool:
        """Store the colors of some tokens that are not there yet; whether there were any."""
        there = self.after.theme({**other, **self.end})
        condition = Condition.of({**other, **self.end})
        lacking = [
            key
            for key in keys
            if condition not in self.values.get(key, ())
            and self.after.resolve(key, there).color != chosen.colors[key]
        ]
        settings = []
        for key in lacking:
            step = chosen.steps.get(key)
            value = Expression("{" + step + "}" if step else space.css_text(chosen.colors[key]))
            self.values.setdefault(key, {})[condition] = value
            settings.append((key, condition, value))
        if settings:
            self.after = resolver_of(set_values(self.after.document, settings))
        return bool(settings)


def _themes(resolver: Resolver, place: NewMode, guesses: Mapping[str, Guess]) -> Iterator[Picks]:
    """The themes of the other axes by which colors differ, as what they pick beside the default modes:
    the default theme, then those that differ on ever more axes."""
    varying = {axis for key in guesses for axis in resolver.influence(key)} - {place.axis}
    axes = [axis for axis in resolver.document.axes if axis.key in varying]
    choices = [[("", ""), *((a.key, m.key) for m in a.modes if m.key != a.default)] for a in axes]
    count = 1
    for modes in choices:
        count *= len(modes)
    picks = (
        [dict(pick for pick in picked if pick[0]) for picked in product(*choices)]
        if (count <= MOST_THEMES)
        else [{}, *({axis: mode} for modes in choices for axis, mode in modes if axis)]
    )
    yield from sorted(picks, key=len)


def _falling_short(
    resolver: Resolver, pairs: Sequence[Pairing], themes: Sequence[Theme]
) -> Iterator[Short]:
    for theme in themes:
        for pairing, reading in zip(pairs, audit(resolver, pairs, [theme]), strict=True):
            if reading.fails:
                yield Short(pairing, reading)


def _why(short: Short, before: Resolver, guesses: Mapping[str, Guess]) -> str:
    """Why a pairing still falls short."""
    above = short.pairing.foreground
    if above not in guesses or guesses[above].role.kind in UNCHANGED:
        return "what it is for is not known, so it was left as it is"
    color = before.resolve(above, before.default_theme).color
    if color is not None and color.alpha < 1:
        return "no lightness of its hue reaches it at its opacity"
    return "no lightness of its hue reaches it on all that it lies on"


def rows(resolver: Resolver, axis: str, source: str, key: str, scheme: str) -> list[Row]:
    """The counterpart of a mode as rows to be reviewed: of ``scheme``, or where that is empty dark where
    the page is light, and light where it is dark. None where names do not say what the page is."""
    document = resolver.document
    theme = resolver.theme({axis: source})
    guesses = guess(document, resolver)
    page = next((key for key, known in guesses.items() if known.role.kind == "page"), "")
    ground = resolver.resolve(page, theme).color if page else None
    if ground is None:
        return []
    dark = scheme == "dark" if scheme else oklch(ground)[0] > 0.5
    place = NewMode(axis, source, key, key=key)
    made = propose(document, resolver, guesses, dark=dark, place=place)
    least = _least_ratios(resolver_of(made.document), made, {axis: key})
    plain = Condition.of({axis: key})
    listed = []
    for token in document.tokens:
        won = resolver.winner(token.key, theme)
        held = made.values.get(token.key)
        if held and won is not None:
            words = _words(guesses[token.key].role, least.get(token.key))
            others = tuple((at, value) for at, value in held.items() if at != plain)
            listed.append(Row(token, won[1], held.get(plain, won[1]), "role", words, others))
    return listed


def _least_ratios(after: Resolver, made: Proposal, picks: Picks) -> dict[str, float]:
    """The smallest ratio of each foreground in the new mode."""
    least: dict[str, float] = {}
    readings = audit(after, made.pairs, [after.theme(dict(picks))])
    for pairing, reading in zip(made.pairs, readings, strict=True):
        if reading.missing:
            continue
        known = least.get(pairing.foreground, reading.ratio)
        least[pairing.foreground] = min(reading.ratio, known)
    return least


def _words(role: Role, ratio: float | None) -> str:
    """Why a row is proposed."""
    if role.kind in ("page", "surface") or role.detail in ("tint", "field"):
        return f"{role}, at its level in the new mode"
    if role.is_ground:
        return f"{role}, to be seen on the new page"
    if ratio is None:
        return f"{role}, as far from the page as before"
    return f"{role}, {truncate_ratio(ratio)} on what it lies on"
