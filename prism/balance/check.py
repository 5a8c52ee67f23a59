"""Colors that stand out much more, or much less, in another mode than in the one they were designed for."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from prism.analysis import Analysis
from prism.balance import prominence
from prism.balance.prominence import Standing
from prism.check import Check, Finding, Fix, Looked
from prism.commands.names import token_name
from prism.compare.rows import condition_text
from prism.contrast.fix_all import modes_axis
from prism.model.document import Axis, Mode
from prism.model.values import Condition

#: From so many L* points on a color is much stronger or weaker. Common practice, no source.
MUCH = 15.0


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each color and mode in which it is much stronger or weaker; all other axes at
    their default."""
    axis = modes_axis(analysis.document)
    if axis is None:
        return
    standard = axis.mode(axis.default)
    for mode in axis.modes:
        if mode is not standard:
            yield from _of_mode(analysis, axis, standard, mode)


def _of_mode(analysis: Analysis, axis: Axis, standard: Mode, mode: Mode) -> Iterator[Finding]:
    worst: dict[str, list[tuple[Mode | None, Standing, Fix]]] = {}
    document = analysis.document
    picks = analysis.resolver.picks(analysis.resolver.default_theme)
    pairs = prominence.grounds(analysis.paired, analysis.roles)
    for brand, there in prominence.brand_themes(document, picks):
        standings = prominence.standings(document, pairs, axis.key, standard.key, mode.key, there)
        for standing in standings:
            token = document.token(standing.token)
            if token is None or abs(standing.stronger) < MUCH:
                continue
            where = Condition.of({key: pick for key, pick in there.items() if key != axis.key})
            words = f"Make even{f' for {brand.name}' if brand else ''}"
            fields = (
                *(("token", token.key), ("axis", axis.key), ("standard", standard.key)),
                *(("mode", mode.key), ("where", condition_text(where))),
            )
            made = brand, standing, Fix(words, "make-even", fields)
            worst.setdefault(token.key, []).append(made)
    for key, uneven in worst.items():
        yield _finding(analysis, key, standard, mode, uneven)


def _finding(
    analysis: Analysis,
    key: str,
    standard: Mode,
    mode: Mode,
    uneven: Sequence[tuple[Mode | None, Standing, Fix]],
) -> Finding:
    """What is found of one color in a mode, over all brands; the worst of them is told."""
    brand, standing, _ = max(uneven, key=lambda reading: abs(reading[1].stronger))
    more = f" and {len(uneven) - 1} more" if len(uneven) > 1 else ""
    return Finding(
        "balance",
        f"{token_name(analysis.document, key)} is {standing.words} L* in {mode.name} than in "
        f"{standard.name}{f', for {brand.name}{more}' if brand else ''}.",
        key,
        mode.name,
        others=(standing.ground,),
        about=mode.key,
        fixes=tuple(fix for _, _, fix in uneven),
    )


def _colors(analysis: Analysis) -> Looked:
    count = 0
    if modes_axis(analysis.document) is not None:
        count = len(prominence.grounds(analysis.paired, analysis.roles))
    return Looked(count, "brand or status color")


CHECK = Check(
    "balance",
    "Balance",
    "A color that shouts in one mode and whispers in another is not the same brand.",
    run,
    _colors,
    "balance",
)
