"""What lets a pairing pass with neither of its colors moved: another surface under it, a line around it, or an overlay
between the two.

Requirements: those of the pairings (WCAG 2.2, 1.4.3 for texts; 1.4.11 for controls and graphics, which a line that
reaches 3 marks as well). Nothing is offered that lets another pairing fall short.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import product
from typing import Literal

from prism.changes.references import with_token
from prism.changes.values import set_values
from prism.contrast.fix_all import modes_axis
from prism.contrast.nearest_step import fixes
from prism.expressions.typed_input import typed
from prism.model.document import Document, Pairing, Token, Use, shown_path
from prism.model.names import condition_words
from prism.model.values import BASE, Condition
from prism.palette.ramp_edits import NewKey, free_name
from prism.resolution.answer_tables import AnswerTables
from prism.resolution.contrast import CANVAS, REQUIRED, Rgba, measure
from prism.resolution.contrast_table import ContrastTable
from prism.resolution.current import resolver_of
from prism.resolution.failing_pairing import Part
from prism.roles import rules
from prism.roles.grounds import Guess
from prism.roles.guess import guess
from prism.sheet.addition import add_token

#: What parts the two colors of a pairing.
Kind = Literal["surface", "line", "overlay"]
#: Uses that are read, and those that are seen by their edge.
_READ: tuple[Use, ...] = ("text", "large text", "graphic")
_EDGED: tuple[Use, ...] = ("control", "graphic")
#: Opacities of an overlay that are tried, the faintest first.
_OPACITIES = tuple(step / 20 for step in range(1, 19))
_BLACK, _WHITE = "rgb(0 0 0 / {:g}%)", "rgb(255 255 255 / {:g}%)"
_NONE = "transparent"


@dataclass(frozen=True, slots=True)
class Parting:
    """What parts two colors: how, in words; the document with it; and the pairing that is judged from then on, with
    its least ratio over all themes, and what the first one read before."""

    kind: Kind
    words: str
    document: Document
    pairing: Pairing
    before: float
    after: float


def partings(document: Document, pairing: Pairing, new_key: NewKey) -> list[Parting]:
    """What parts the colors of a pairing of ``document``, or of its rules, that falls short; at most one of each
    kind."""
    if not pairing.backgrounds:
        return []
    ways = _Separations(document, pairing, new_key)
    if not ways.falls_short:
        return []
    return [parting for parting in (ways.surface(), ways.line(), ways.overlay()) if parting]


class _Separations:
    """The ways to part the colors of one pairing."""

    def __init__(self, document: Document, pairing: Pairing, new_key: NewKey) -> None:
        self._document, self._pairing, self._new_key = document, pairing, new_key
        self._resolver = resolver_of(document)
        self._tables = AnswerTables(self._resolver)
        self._roles: Mapping[str, Guess] = guess(document, self._resolver)
        self._parts = ContrastTable(self._tables, [pairing]).parts(pairing.key)
        self._paired = rules.paired(document)

    @property
    def falls_short(self) -> bool:
        """Whether the pairing falls short in some theme."""
        return any(part.reading.fails for part in self._parts)

    def surface(self) -> Parting | None:
        """Another surface on which the foreground passes in every theme, the one nearest in lightness."""
        pairing = self._pairing
        role = self._roles.get(pairing.backgrounds[0])
        if role is None or role.role.kind not in ("page", "surface"):
            return None
        others = []
        for key, known in self._roles.items():
            kind, token = known.role, self._document.token(key)
            plain = kind.kind in ("page", "surface") and not kind.detail and not kind.state
            if token is None or token.tier == "raw" or not plain or key == pairing.backgrounds[0]:
                continue
            there = replace(pairing, backgrounds=(key, *pairing.backgrounds[1:]))
            parts = ContrastTable(self._tables, [there]).parts(there.key)
            if all(part.reading.passes for part in parts):
                others.append((self._gap(key), key, there))
        if not others:
            return None
        _, key, there = min(others, key=lambda other: other[0])
        name = self._name(key)
        after = self._exempt(f"It stands on {name} instead.")
        made = next((p for p in self._paired.pairings if _same(p, there)), None)
        if made is None:
            made = replace(_plain(there), key=self._new_key())
            after = replace(after, pairings=(*after.pairings, made))
        return self._parting("surface", f"put it on {name}", after, made)

    def _gap(self, key: str) -> float:
        """How far another surface lies from the present one in luminance, on average over the themes."""
        both = Pairing("", key, self._pairing.backgrounds[:1], page=self._pairing.page)
        parts = ContrastTable(self._tables, [both]).parts("")
        return sum(part.reading.gap * part.themes for part in parts if not part.reading.missing)

    def line(self) -> Parting | None:
        """A line around it that reaches 3 on the same background: one that is there, or a new one."""
        pairing = self._pairing
        if pairing.use not in _EDGED:
            return None
        lines = [
            self._read(key)
            for key, known in self._roles.items()
            if known.role.kind == "line" and not known.role.state and key != pairing.foreground
        ]
        passing = [(least, key) for least, key in lines if least >= REQUIRED["control"]]
        if passing:
            key = min(passing)[1]
            return self._with_line(self._document, key, f"draw {self._name(key)} around it")
        return self._new_line(max(lines)[1] if lines else pairing.foreground)

    def _read(self, key: str) -> tuple[float, str]:
        """The least ratio of a line on the background, 0 where it has no color in some theme."""
        there = replace(self._pairing, foreground=key)
        parts = ContrastTable(self._tables, [there]).parts(there.key)
        least = min((0.0 if p.reading.missing else p.reading.ratio for p in parts), default=0.0)
        return least, key

    def _new_line(self, like: str) -> Parting | None:
        source = self._document.token(like)
        if source is None or source.tier == "raw":
            return None
        path = self._free(like, self._own_name(self._pairing.foreground, source))
        given = [(condition, typed(value, source.type)) for condition, value in source.values]
        after, token = add_token(
            self._document, path, given, self._new_key, tier="semantic", type="color"
        )
        after = with_token(after, replace(token, role="line", belongs_to=self._pairing.foreground))
        paired = rules.paired(after)
        asked = replace(
            self._pairing,
            key=" ",
            foreground=token.key,
            use="control",
            required=REQUIRED["control"],
        )
        moved = fixes(replace(paired, pairings=(*paired.pairings, asked)), asked)
        fix = next((fix for fix in moved if fix.side == "foreground"), None)
        if fix is None or any(move.token != token.key for move in fix.moves):
            return None
        after = set_values(after, fix.settings)
        made = after.token(token.key)
        assert made is not None
        words = f"draw a new line around it, {shown_path(path)}: {_values(after, made)}"
        return self._with_line(after, token.key, words)

    def _with_line(self, document: Document, key: str, words: str) -> Parting | None:
        name = self._name(key, document)
        after = self._exempt(f"{name} around it marks it.", document)
        line = Pairing(
            self._new_key(),
            key,
            self._pairing.backgrounds,
            "control",
            REQUIRED["control"],
            page=self._pairing.page,
        )
        made = next((p for p in self._paired.pairings if _same(p, line)), None)
        if made is None or made.required < line.required:
            made = line
            after = replace(after, pairings=(*after.pairings, line))
        return self._parting("line", words, after, made)

    def overlay(self) -> Parting | None:
        """A new overlay under the words, as faint as will do in each mode of light and dark."""
        pairing = self._pairing
        if pairing.use not in _READ or any(part.reading.missing for part in self._parts):
            return None
        given = self._opacities()
        if given is None:
            return None
        like = next((k for k, known in self._roles.items() if known.role.kind == "overlay"), "")
        source = self._document.token(like)
        own = self._own_name(pairing.foreground, source)
        path = (
            self._free(like, own)
            if source is not None
            else free_name(self._document, f"overlay.under-{own}")
        )
        after, token = add_token(
            self._document, path, given, self._new_key, tier="semantic", type="color"
        )
        after = with_token(after, replace(token, role="overlay"))
        backgrounds = (token.key, *pairing.backgrounds)
        made = replace(_plain(pairing), key=self._new_key(), backgrounds=backgrounds)
        after = self._exempt(f"It stands on {shown_path(path)} there.", after)
        after = replace(after, pairings=(*after.pairings, made))
        added = after.token(token.key)
        assert added is not None
        words = f"lay a new overlay under it, {shown_path(path)}: {_values(after, added)}"
        return self._parting("overlay", words, after, made)

    def _opacities(self) -> list[tuple[Condition, str]] | None:
        """The overlay of each mode of light and dark, that of the default mode first; None where some mode has
        none."""
        axis, required = modes_axis(self._document), self._pairing.required
        if axis is None:
            text = _overlay_for(self._parts, required)
            return [(BASE, text)] if text is not None else None
        place = self._resolver.axis_index[axis.key]
        of_mode: dict[str, str] = {}
        for number, mode in enumerate(axis.modes):
            here = [part for part in self._parts if part.fixed[place] in (-1, number)]
            text = _overlay_for(here, required)
            if text is None:
                return None
            of_mode[mode.key] = text
        base = of_mode.pop(axis.default)
        return [
            (BASE, base),
            *((Condition.of({axis.key: m}), text) for m, text in of_mode.items() if text != base),
        ]

    def _exempt(self, reason: str, document: Document | None = None) -> Document:
        """The document with the pairing as one that needs nothing, for a reason."""
        there = document or self._document
        pairing = replace(self._pairing, required=0.0, reason=reason)
        if there.pairing(pairing.key) is None:
            made = replace(pairing, key=self._new_key())
            return replace(there, pairings=(*there.pairings, made))
        kept = tuple(pairing if p.key == pairing.key else p for p in there.pairings)
        return replace(there, pairings=kept)

    def _parting(self, kind: Kind, words: str, after: Document, made: Pairing) -> Parting | None:
        """What was found; None where it does not hold in every theme, or another pairing falls short by it."""
        paired = rules.paired(after)
        tables = AnswerTables(resolver_of(after))
        parts = ContrastTable(tables, [made]).parts(made.key)
        if not parts or not all(part.reading.passes for part in parts):
            return None
        known = {pairing.key for pairing in self._paired.pairings}
        added = [p for p in paired.pairings if p.key not in known and p.key != made.key]
        if any(table.falls_short(p.key) for table in [ContrastTable(tables, added)] for p in added):
            return None
        before, least = (
            min((p.reading.ratio for p in read if not p.reading.missing), default=0.0)
            for read in (self._parts, parts)
        )
        return Parting(kind, words, after, made, before, least)

    def _name(self, key: str, document: Document | None = None) -> str:
        token = (document or self._document).token(key)
        return shown_path(token.path) if token is not None else key

    def _own_name(self, key: str, beside: Token | None) -> str:
        """The last two segments of a token's path as one, without the group that it is put into."""
        segments = self._name(key).split(".")[-2:]
        group = (beside.path.split(".") if beside is not None else [""])[0]
        return "-".join(segment for segment in segments if segment != group)

    def _free(self, like: str, name: str) -> str:
        """A path of this name beside a token."""
        source = self._document.token(like)
        group = source.path.rpartition(".")[0] if source is not None else ""
        group = group or "line"
        return free_name(self._document, f"{group}.{name}")


def _plain(pairing: Pairing) -> Pairing:
    """A pairing without what was said of another."""
    return replace(pairing, reason="", waiver="", waived_by="", waived_until="")


def _same(pairing: Pairing, other: Pairing) -> bool:
    return (pairing.foreground, pairing.backgrounds) == (other.foreground, other.backgrounds)


def _overlay_for(parts: Sequence[Part], required: float) -> str | None:
    """The faintest overlay of black or white with which some readings reach what they need; None for none."""
    if all(part.reading.passes for part in parts):
        return _NONE
    colors = [(_rgba(part.reading.foreground), _rgba(part.reading.background)) for part in parts]
    for opacity, (text, shade) in product(_OPACITIES, ((_BLACK, 0.0), (_WHITE, 1.0))):
        stacks = [(over, (shade, shade, shade, opacity), under) for over, under in colors]
        if all(ratio >= required for ratio, *_ in measure([(*stack, CANVAS) for stack in stacks])):
            return text.format(opacity * 100)
    return None


def _rgba(hex: str) -> Rgba:
    red, green, blue = (int(hex[start : start + 2], 16) / 255 for start in (1, 3, 5))
    return red, green, blue, 1.0


def _values(document: Document, token: Token) -> str:
    """The values of a token in words, with where they hold."""
    return ", ".join(_value(document, token))


def _value(document: Document, token: Token) -> Iterator[str]:
    for condition, value in token.values:
        where = f" for {condition_words(document, condition)}" if condition.picks else ""
        yield f"{typed(value, token.type).strip('{}')}{where}"
