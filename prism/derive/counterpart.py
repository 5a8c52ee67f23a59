"""A dark or light counterpart of a mode, by what each color is for.

The page and its surfaces are laid out anew, level by level; fills stay where they can be seen; every text,
icon, line and focus keeps its hue and takes the lightness at which it stands out on all it stands on as
much as before, and at least as much as it must. It asks roles alone, and needs no palette.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from prism.changes.axes import add_axis, add_mode
from prism.changes.values import set_values
from prism.color import space
from prism.color.contrast import truncate_ratio
from prism.derive.counterpart_colors import Counterpart
from prism.derive.tuning import Row
from prism.errors import EditError
from prism.expressions.values import references
from prism.model.document import Axis, Document, Mode, Pairing
from prism.model.values import Condition, Expression
from prism.palette.course import oklch
from prism.resolution.contrast import Reading, audit
from prism.resolution.resolver import Resolver, Theme
from prism.roles.grounds import Guess
from prism.roles.guess import guess
from prism.roles.role import Role
from prism.roles.rules import pairings


@dataclass(frozen=True, slots=True)
class Short:
    """A pairing that falls short in a mode, what was read, and why, empty where that was not asked."""

    pairing: Pairing
    reading: Reading
    why: str = ""


@dataclass(frozen=True, slots=True)
class Proposal:
    """The document with the proposed mode, the key of its axis and mode, the colors by token key, and
    what falls short: before, in the mode it comes from, and after."""

    document: Document
    axis: str
    mode: str
    colors: Mapping[str, space.Color]
    before: tuple[Short, ...]
    after: tuple[Short, ...]
    pairs: tuple[Pairing, ...]

    @property
    def judged(self) -> int:
        """How many pairings were judged."""
        return len(self.pairs)


@dataclass(frozen=True, slots=True)
class NewMode:
    """Where a counterpart goes: the keys of the axis and of the mode to start from, and what the new
    mode is called. Without an axis a new one, called ``axis_name``, takes the values that are there
    as its first mode."""

    axis: str = ""
    source: str = ""
    name: str = ""
    axis_name: str = "appearance"
    key: str = "proposed"


def propose(
    document: Document,
    resolver: Resolver,
    guesses: Mapping[str, Guess],
    *,
    dark: bool,
    place: NewMode,
) -> Proposal:
    """A counterpart of a mode. Raises ``EditError`` where that mode is gone, or the name is taken."""
    axis, source = place.axis, place.source
    owner = document.axis(axis)
    if axis and (owner is None or all(known.key != source for known in owner.modes)):
        raise EditError("The mode to start from is no longer there.")
    theme = resolver.theme({axis: source}) if axis else resolver.default_theme
    made = pairings(document, guesses)
    pairs = (*document.pairings, *(by_rule.pairing for by_rule in made))
    wanted = Counterpart(document, resolver, theme, guesses, pairs, dark).colors()
    started, axis = _started(document, place, dark)
    picks = dict(zip((a.key for a in document.axes), _keys(document, theme), strict=True))
    after, colors = _settled(resolver, theme, started, {**picks, axis: place.key}, axis, wanted)
    there = after.theme({**picks, axis: place.key})
    short = _falling_short(after, pairs, there)
    return Proposal(
        after.document,
        axis,
        place.key,
        colors,
        tuple(_falling_short(resolver, pairs, theme)),
        tuple(replace(fault, why=_why(fault, guesses, wanted)) for fault in short),
        pairs,
    )


def _started(document: Document, place: NewMode, dark: bool) -> tuple[Document, str]:
    """The document with the new mode as a copy, and the key of its axis."""
    scheme, other = ("dark", "light") if dark else ("light", "dark")
    mode = Mode(place.key, place.name or scheme, color_scheme=scheme)
    if place.axis:
        return add_mode(document, place.axis, mode, place.source), place.axis
    key, first = f"{place.key}-axis", Mode(f"{place.key}-from", other, color_scheme=other)
    return add_axis(document, Axis(key, place.axis_name, (first, mode), first.key)), key


def _settled(
    before: Resolver,
    was: Theme,
    started: Document,
    picks: Mapping[str, str],
    axis: str,
    wanted: Mapping[str, space.Color],
) -> tuple[Resolver, dict[str, space.Color]]:
    """The document with the colors that are wanted in the new mode, and those that had to be set: what
    refers to others follows them where that gives the color that is wanted."""
    colors: dict[str, space.Color] = {}
    after = Resolver(started)
    for follows in (False, True):
        there = after.theme(dict(picks))
        for token, color in wanted.items():
            own = before.winner(token, was)
            refers = own is not None and any(references(own[1], "color"))
            if refers is follows and after.resolve(token, there).color != color:
                colors[token] = color
        after = Resolver(_colored(started, axis, picks[axis], colors))
    return after, colors


def _falling_short(resolver: Resolver, pairs: Sequence[Pairing], theme: Theme) -> Iterator[Short]:
    for pairing, reading in zip(pairs, audit(resolver, pairs, [theme]), strict=True):
        if reading.fails:
            yield Short(pairing, reading)


def _why(short: Short, guesses: Mapping[str, Guess], wanted: Mapping[str, space.Color]) -> str:
    """Why a pairing still falls short."""
    known = guesses.get(short.pairing.foreground)
    if known is None or short.pairing.foreground not in wanted:
        return "what it is for is unknown, so it was left as it is"
    others = sum(key in wanted for key in short.pairing.backgrounds)
    if not others:
        return "what it stands on was left as it is"
    return "no lightness of its hue reaches it on all that it stands on"


def _colored(
    document: Document, axis: str, mode: str, colors: Mapping[str, space.Color]
) -> Document:
    condition = Condition.of({axis: mode})
    return set_values(
        document,
        [(token, condition, Expression(space.css_text(color))) for token, color in colors.items()],
    )


def _keys(document: Document, theme: Theme) -> list[str]:
    return [axis.modes[place].key for axis, place in zip(document.axes, theme, strict=True)]


def rows(resolver: Resolver, axis: str, source: str, key: str) -> list[Row]:
    """The counterpart of a mode as rows to be reviewed: dark where its page is light, and light where
    it is dark. None where names say nothing."""
    document = resolver.document
    theme = resolver.theme({axis: source})
    guesses = guess(document, resolver)
    page = next((key for key, known in guesses.items() if known.role.kind == "page"), "")
    ground = resolver.resolve(page, theme).color if page else None
    if ground is None:
        return []
    dark = oklch(ground)[0] > 0.5
    place = NewMode(axis, source, key, key=key)
    made = propose(document, resolver, guesses, dark=dark, place=place)
    after = Resolver(made.document)
    there = after.theme({**resolver.picks(theme), axis: key})
    ratios: dict[str, float] = {}
    for reading in audit(after, made.pairs, [there]):
        foreground = next(p.foreground for p in made.pairs if p.key == reading.pairing)
        ratios[foreground] = min(reading.ratio, ratios.get(foreground, reading.ratio))
    listed = []
    for token in document.tokens:
        won = resolver.winner(token.key, theme)
        if token.key in made.colors and won is not None:
            text = Expression(space.css_text(made.colors[token.key]))
            words = _words(guesses[token.key].role, ratios.get(token.key))
            listed.append(Row(token, won[1], text, "role", words))
    return listed


def _words(role: Role, ratio: float | None) -> str:
    """Why a row is proposed."""
    if role.kind in ("page", "surface") or role.detail in ("tint", "field"):
        return f"{role}: levels laid out anew"
    if role.is_ground:
        return f"{role}: to be seen on the new page"
    if ratio is None:
        return f"{role}: as far from the page as before"
    return f"{role}: {truncate_ratio(ratio)} on what it stands on"
