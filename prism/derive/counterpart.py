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


def propose(
    document: Document,
    resolver: Resolver,
    guesses: Mapping[str, Guess],
    *,
    dark: bool,
    axis: str = "",
    source: str = "",
    name: str = "",
    axis_name: str = "appearance",
    key: str = "proposed",
) -> Proposal:
    """A counterpart of the mode ``source`` of ``axis`` (keys), as a new mode ``name``.

    Without an axis a new one, called ``axis_name``, takes the values that are there as its first mode.
    Raises ``EditError`` where the mode is gone, or its name is taken.
    """
    owner = document.axis(axis)
    if axis and (owner is None or all(known.key != source for known in owner.modes)):
        raise EditError("The mode to start from is no longer there.")
    theme = resolver.theme({axis: source}) if axis else resolver.default_theme
    made = pairings(document, guesses)
    pairs = (*document.pairings, *(by_rule.pairing for by_rule in made))
    wanted = Counterpart(document, resolver, theme, guesses, pairs, dark).colors()
    scheme, other = ("dark", "light") if dark else ("light", "dark")
    mode = Mode(key, name or scheme, color_scheme=scheme)
    if axis:
        started = add_mode(document, axis, mode, source)
    else:
        axis, first = f"{key}-axis", Mode(f"{key}-from", other, color_scheme=other)
        started = add_axis(document, Axis(axis, axis_name, (first, mode), first.key))
    picks = dict(zip((a.key for a in document.axes), _keys(document, theme), strict=True))
    colors: dict[str, space.Color] = {}
    after = Resolver(started)
    # What refers to others follows them where that gives the color that is wanted.
    for follows in (False, True):
        there = after.theme({**picks, axis: key})
        for token, color in wanted.items():
            own = resolver.winner(token, theme)
            refers = own is not None and any(references(own[1], "color"))
            if refers is follows and after.resolve(token, there).color != color:
                colors[token] = color
        after = Resolver(_colored(started, axis, key, colors))
    return Proposal(
        after.document,
        axis,
        key,
        colors,
        tuple(_falling_short(resolver, pairs, theme)),
        tuple(
            replace(short, why=_why(short, guesses, wanted))
            for short in _falling_short(after, pairs, there)
        ),
        pairs,
    )


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
    made = propose(
        document, resolver, guesses, dark=dark, axis=axis, source=source, name=key, key=key
    )
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
