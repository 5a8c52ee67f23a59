"""The axes as they are shown: their modes, what varies by each, and what a removal would lose."""

from __future__ import annotations

from dataclasses import dataclass

from prism.analysis import Analysis
from prism.brands.draft import Brand
from prism.changes.axes import lost_with_mode, ramps_of_mode
from prism.expressions.values import value_text
from prism.model.document import Axis, Document, Mode, shown_path
from prism.model.names import condition_words
from prism.model.values import Condition
from prism.resolution.current import resolver_of
from prism.roles.lexicon import words_of

#: Words in the paths of texts that a brand has its own of, and how many are shown.
_NAMES = frozenset(("name", "brand", "logo", "mark", "product", "company"))
_MOST_TEXTS = 6


@dataclass(frozen=True, slots=True)
class ModeRow:
    """A mode, how many values hold in it alone, and the preferences that lead to it."""

    mode: Mode
    values: int
    follows: tuple[str, ...]
    is_default: bool
    sample: tuple[str, ...]
    #: Ramps that nothing refers to without the mode.
    ramps: tuple[str, ...] = ()

    @property
    def words(self) -> str:
        """What there is to say of it, in a line."""
        plural = "" if self.values == 1 else "s"
        return "; ".join(
            part
            for part in (
                "default" if self.is_default else "",
                f"{self.values} value{plural}" if self.values or not self.is_default else "",
                f"scheme {self.mode.color_scheme}" if self.mode.color_scheme else "",
                "follows the system" if self.follows else "",
            )
            if part
        )


@dataclass(frozen=True, slots=True)
class AxisRow:
    """An axis with its modes, and how many tokens have a value on it."""

    axis: Axis
    modes: tuple[ModeRow, ...]
    tokens: int


#: Slots that a sample of a mode shows.
_SAMPLED = ("page", "ink", "action")


def rows(analysis: Analysis) -> list[AxisRow]:
    """Every axis in order."""
    document, resolver = analysis.document, analysis.resolver
    sampled = [analysis.guessed.get(slot, "") for slot in _SAMPLED]
    sections = []
    for axis in document.axes:
        follows = axis.follows
        shown = tuple(
            ModeRow(
                mode,
                len(lost_with_mode(document, axis.key, mode.key)),
                tuple(
                    f"{follows.feature}: {value}"
                    for value, key in (follows.modes if follows else ())
                    if follows and key == mode.key
                ),
                mode.key == axis.default,
                tuple(
                    resolver.resolve(key, resolver.theme({axis.key: mode.key})).hex[:7]
                    for key in sampled
                    if key
                ),
                tuple(ramp.name for ramp in ramps_of_mode(document, axis.key, mode.key)),
            )
            for mode in axis.modes
        )
        tokens = sum(
            any(condition.mode_on(axis.key) for condition, _ in token.values)
            for token in document.tokens
        )
        sections.append(AxisRow(axis, shown, tokens))
    return sections


def own_texts(document: Document) -> list[tuple[str, str]]:
    """The tokens that a brand usually has values of its own for beside colors and corners: typefaces
    and names, by key, with their paths."""
    return [
        (token.key, shown_path(token.path))
        for token in document.tokens
        if token.type == "fontFamily"
        or (token.type == "string" and _NAMES & {*words_of(token.path)})
    ][:_MOST_TEXTS]


@dataclass(frozen=True, slots=True)
class BrandRow:
    """What a token refers to for a brand: where, before and after, as text and as hex."""

    path: str
    where: str
    before: str
    after: str
    before_hex: str
    after_hex: str


@dataclass(frozen=True, slots=True)
class BrandPreview:
    """What a new brand differs in, the names of its ramps, and how many pairings fall short with it that
    did not before."""

    rows: tuple[BrandRow, ...]
    ramps: tuple[str, ...]
    short: int


def brand_preview(brand: Brand, before: Analysis) -> BrandPreview:
    """The preview of a new brand over the document that it is added to."""
    after = Analysis(brand.document, before)
    known = {ramp.key for ramp in before.document.ramps}
    return BrandPreview(
        tuple(brand_rows(brand, before.document)),
        tuple(ramp.name for ramp in brand.document.ramps if ramp.key not in known),
        len(after.failing.keys() - before.failing.keys()),
    )


def brand_rows(brand: Brand, before: Document) -> list[BrandRow]:
    """What differs by a new brand, row by row."""
    document = brand.document
    was, now = resolver_of(before), resolver_of(document)
    shown = []
    for row in brand.rows:
        rest = {axis: mode for axis, mode in row.condition.picks if axis != brand.axis}
        known = {axis: mode for axis, mode in rest.items() if before.axis(axis) is not None}
        shown.append(
            BrandRow(
                shown_path(row.token.path),
                condition_words(document, Condition.of(rest)) if rest else "",
                value_text(row.before).strip("{}") if row.before is not None else "",
                value_text(row.after).strip("{}"),
                was.resolve(row.token.key, was.theme(known)).hex,
                now.resolve(row.token.key, now.theme(dict(row.condition.picks))).hex,
            )
        )
    return shown
