"""A document while a brand is added to it: ramps, references, labels, corners, texts."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from itertools import pairwise

from prism.brands import fills
from prism.brands.fills import Fill, Swatch
from prism.changes.references import check_path
from prism.changes.values import Setting, set_values
from prism.color import space
from prism.color.contrast import ratio_of
from prism.contrast import nearest_step
from prism.errors import EditError
from prism.expressions.evaluation import pixels
from prism.expressions.syntax import reference_of
from prism.expressions.typed_input import read_typed, reference_to, shown_path_or_root
from prism.expressions.values import references, rewrite
from prism.model.document import Document, Ramp, Token, shown_path
from prism.model.values import BASE, Condition, Expression, Value
from prism.palette import ramp_edits, recipes
from prism.palette.alike import colors, lights, match
from prism.palette.mapping import along
from prism.palette.ramp_edits import NewKey
from prism.palette.ramps import oklch
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver, Theme
from prism.roles import rules
from prism.roles.grounds import Guess
from prism.roles.lexicon import words_of
from prism.solver.levels import plain_ends

CORNERS = {
    "": "as they are",
    "square": "square",
    "smaller": "a step smaller",
    "larger": "a step larger",
}


@dataclass(frozen=True, slots=True)
class Row:
    """What a token refers to in the new brand's mode, under ``condition``, and what it would without."""

    token: Token
    condition: Condition
    before: Value | None
    after: Value


@dataclass(frozen=True, slots=True)
class Brand:
    """The document with the new brand, the keys of its axis and mode, and what differs by it."""

    document: Document
    axis: str
    mode: str
    rows: tuple[Row, ...] = field(default=())


class BrandMaker:
    """The document while a brand is added to it."""

    def __init__(self, document: Document, axis: str, mode: str, like: str) -> None:
        self.before = self.document = document
        self.axis, self.mode, self.like = axis, mode, like
        #: Old steps and the like new ones, by path.
        self.renamed: dict[str, str] = {}
        #: The base colors of ramps: the old one and the new one, as steps by key, with their ramps.
        self.own: dict[str, tuple[Token, Ramp]] = {}

    # Ramps

    def add_ramp(self, steps: Sequence[str], name: str, text: str, new_key: NewKey) -> None:
        """Add a ramp whose steps are as far from white as these, and remember which are alike."""
        try:
            color = replace(space.fit(space.parse_function(text), "srgb"), alpha=1.0)
        except Exception as error:
            raise EditError(str(error), place=name) from None
        check_path(name)
        fields = self._recipe(steps) | {"seed": space.hex_text(color)}
        old = self._ramp(steps)
        name = ramp_edits.free_name(self.document, name)
        pairs = zip(lights(self.document, steps), steps, strict=True)
        ordered = [step for _, step in sorted(pairs, key=lambda pair: -pair[0])]
        leaves = " ".join(ramp_edits.leaf(self.document, step) for step in ordered)
        named = leaves if len(leaves.split()) == len(set(leaves.split())) == len(steps) else ""
        purpose = old.purpose if old is not None else ""
        self.document = ramp_edits.add_ramp(
            self.document, name, fields, new_key, names=named, purpose=purpose
        )
        ramp = self.document.ramps[-1]
        alike = match(lights(self.document, steps), lights(self.document, ramp.steps))
        for place, other in alike.items():
            self._rename(steps[place], ramp.steps[other])
        own = ramp.base or _step_of(self.document, ramp, color)
        if old is not None:
            was = old.base or _seed_of(self.document, old)
            if old.base:
                self._rename(old.base, own)
            token = self.document.token(own)
            if was and token is not None:
                self.own[was] = (token, ramp)

    def _recipe(self, steps: Sequence[str]) -> dict[str, str]:
        """The recipe of the ramp of these steps, or one that makes steps as far from white."""
        old = self._ramp(steps)
        if old is not None and old.parameters:
            return dict(old.parameters)
        if not steps:
            return {}
        shown = [color for color in colors(self.document, steps) if color is not None]
        ratios = sorted(ratio_of(color, space.WHITE) for color in shown)
        apart = all(second / first > 1.01 for first, second in pairwise(ratios))
        fields = {"count": str(max(len(steps), 3))}
        if apart and len(ratios) == len(steps) and ratios[0] > 1.01 and ratios[-1] < 20.5:
            fields["targets"] = recipes.numbers_text(tuple(ratios))
        return fields

    def _ramp(self, steps: Sequence[str]) -> Ramp | None:
        return next((ramp for ramp in self.document.ramps if ramp.steps == tuple(steps)), None)

    def _rename(self, old: str, new: str) -> None:
        first, second = self.document.token(old), self.document.token(new)
        assert first is not None
        assert second is not None
        path = shown_path_or_root(self.document, second)
        self.renamed |= {first.path: path, shown_path(first.path): path}

    # Values

    def map_references(self) -> None:
        """Let what refers to an old step refer to the like new one in the new mode."""
        settings: list[Setting] = []
        for token in self.document.tokens:
            if token.tier == "raw":
                continue
            held = self._held(token)
            if any({*references(value, token.type)} & {*self.renamed} for value in held.values()):
                settings += [
                    (token.key, self._here(condition), rewrite(value, token.type, self.renamed))
                    for condition, value in held.items()
                ]
        self.document = set_values(self.document, settings)

    def _held(self, token: Token) -> dict[Condition, Value]:
        """The values of a token in the mode the brand starts from, by condition on the other axes."""
        held = {c: value for c, value in token.values if c.mode_on(self.axis) is None}
        for condition, value in token.values:
            if condition.mode_on(self.axis) == self.like:
                rest = {axis: mode for axis, mode in condition.picks if axis != self.axis}
                held[Condition.of(rest)] = value
        return held

    def _here(self, condition: Condition) -> Condition:
        return Condition.of({**dict(condition.picks), self.axis: self.mode})

    def show_own_colors(self, guesses: Mapping[str, Guess]) -> None:
        """Let fills that show a brand's own color show the new one's, with states and a label that
        read."""
        for token in self.document.tokens:
            known = guesses.get(token.key)
            if known is None or known.role.kind != "fill" or known.role.state:
                continue
            held = self._held(token)
            shown = [key for key in map(self._target, held.values()) if key in self.own]
            if shown:
                for condition in held:
                    self._show(token, condition, *self.own[shown[0]], guesses)

    def _target(self, value: Value) -> str:
        """The key of the token that a value refers to as a whole; empty for any other value."""
        path = reference_of(value.text) if isinstance(value, Expression) else ""
        token = self.document.token_at(path) if path else None
        return token.key if token is not None else ""

    def _show(
        self,
        rest: Token,
        condition: Condition,
        own: Token,
        ramp: Ramp,
        guesses: Mapping[str, Guess],
    ) -> None:
        """Store a fill, its states and its label under a condition."""
        resolver = resolver_of(self.document)
        theme = resolver.theme(dict(self._here(condition).picks))
        labels = self._labels(resolver, theme)
        base = self._swatch(resolver, own.key, theme)
        if base is None or not labels:
            return
        steps = [self._swatch(resolver, key, theme) for key in ramp.steps]
        grounds = self._grounds(resolver, theme, guesses)
        is_dark = any(oklch(ground)[0] < 0.5 for ground in grounds)
        chosen = fills.choose(
            base,
            [step for step in steps if step],
            labels,
            grounds,
            stands_out=is_dark,
            as_strong=self._strength(resolver, rest, guesses) if is_dark else None,
        )
        self.document = set_values(self.document, self._settings(rest, condition, chosen, guesses))

    def _strength(
        self, resolver: Resolver, rest: Token, guesses: Mapping[str, Guess]
    ) -> float | None:
        """How far a fill stands out from the page where no condition holds; None where that is not known."""
        theme = resolver.theme(dict(self._here(BASE).picks))
        shown, grounds = (
            self._swatch(resolver, rest.key, theme),
            self._grounds(resolver, theme, guesses),
        )
        return fills.strength(shown, grounds[0]) if shown and grounds else None

    def _settings(
        self, rest: Token, condition: Condition, chosen: Fill, guesses: Mapping[str, Guess]
    ) -> Iterator[Setting]:
        yield rest.key, self._here(condition), Expression(chosen.rest)
        for key, known in guesses.items():
            if known.belongs_to != rest.key or known.role.state == "disabled":
                continue
            part = {"label": "label", "fill": known.role.state}.get(known.role.kind, "")
            if part in ("label", "hover", "pressed") and not (part == "label" and known.role.state):
                yield key, self._here(condition), Expression(getattr(chosen, part))

    def _labels(self, resolver: Resolver, theme: Theme) -> list[Swatch]:
        """White, the darkest neutral, and black, as far as they are there."""
        ends = [self._swatch(resolver, key, theme) for key in plain_ends(resolver, theme)]
        neutral = next((ramp for ramp in self.document.ramps if ramp.purpose == "ink"), None)
        dark = [self._swatch(resolver, neutral.steps[-1], theme)] if neutral else []
        known = [swatch for swatch in (*ends, *dark) if swatch is not None]
        return sorted(
            known, key=lambda swatch: (swatch.color == space.BLACK, -oklch(swatch.color)[0])
        )

    def _grounds(
        self, resolver: Resolver, theme: Theme, guesses: Mapping[str, Guess]
    ) -> list[space.Color]:
        shown = [
            resolver.resolve(key, theme).color
            for key, known in guesses.items()
            if known.role.kind == "page"
        ]
        return [color for color in shown if color is not None and color.alpha >= 1]

    def _swatch(self, resolver: Resolver, key: str, theme: Theme) -> Swatch | None:
        token = self.document.token(key)
        shown = resolver.resolve(key, theme).color if token is not None else None
        if token is None or shown is None or shown.alpha < 1:
            return None
        return Swatch(reference_to(self.document, token).text, shown)

    # What else differs

    def set_corners(self, corners: str) -> None:
        """Move what refers to a scale of radii along it."""
        if not corners:
            return
        resolver = resolver_of(self.document)

        def size(key: str) -> float:
            return pixels(resolver.resolve(key, resolver.default_theme).value)

        def turn(steps: tuple[str, ...], place: int) -> str:
            named = [key for key in steps if ramp_edits.leaf(self.document, key) != "base"]
            sizes = {key: size(key) for key in named}
            now = size(steps[place])
            there = {
                "square": sorted(named, key=lambda key: sizes[key])[:1],
                "smaller": sorted((k for k in named if sizes[k] < now), key=lambda k: -sizes[k]),
                "larger": sorted((k for k in named if sizes[k] > now), key=lambda k: sizes[k]),
            }[corners]
            return next(iter(there), steps[place])

        settings: list[Setting] = []
        for token in self.document.tokens:
            if token.type != "dimension" or token.tier == "raw":
                continue
            for condition, value in self._held(token).items():
                path = reference_of(value.text) if isinstance(value, Expression) else ""
                if not {"radius", "corner", "rounded", "radii"} & {*words_of(path)}:
                    continue
                turned = along(self.document, value, token.type, turn)
                if turned is not None:
                    settings.append((token.key, self._here(condition), turned))
        if not settings:
            raise EditError("No token refers to a scale of radii.", place="Corners")
        self.document = set_values(self.document, settings)

    def set_texts(self, texts: Sequence[tuple[str, str]]) -> None:
        """Store a typeface, a name and the like."""
        for key, text in texts:
            token = self.document.token(key)
            if token is None:
                raise EditError("That token is no longer there.")
            if text.strip():
                value = read_typed(self.document, text, token)
                self.document = set_values(self.document, [(key, self._here(Condition()), value)])

    def finished(self) -> Brand:
        """The document, with what falls short in the new mode moved to steps that pass."""
        judged = rules.paired(self.document)
        within = {self.axis: self.mode}
        self.document = set_values(
            self.document, nearest_step.repaired(judged, within, {self.axis: self.like})
        )
        known = resolver_of(self.before)
        rows = []
        for token in self.document.tokens:
            if self.before.token(token.key) is None:
                continue
            for condition, value in token.values:
                if condition.mode_on(self.axis) == self.mode:
                    won = known.winner(token.key, known.theme(dict(condition.picks)))
                    if won is None or won[1] != value:
                        rows.append(Row(token, condition, won[1] if won else None, value))
        return Brand(self.document, self.axis, self.mode, tuple(rows))


def _step_of(document: Document, ramp: Ramp, color: space.Color) -> str:
    """The step that is a color, by key; empty where none is."""
    shown = colors(document, ramp.steps)
    pairs = zip(ramp.steps, shown, strict=True)
    same = [s for s, c in pairs if c is not None and space.rgba8(c)[:3] == space.rgba8(color)[:3]]
    return same[0] if same else ""


def _seed_of(document: Document, ramp: Ramp) -> str:
    """The step that is the base color of a ramp, by key; empty where none is."""
    text = dict(ramp.parameters).get("seed", "")
    return _step_of(document, ramp, space.parse_function(text)) if text else ""
