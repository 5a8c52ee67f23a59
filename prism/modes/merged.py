"""Colors that mean different things, are told apart in some themes, and are one color in others.

Looked at are a thing and its hover, sunken and raised surfaces and the page, texts of different weight in one group, and what
one part of different statuses is painted with; only where it is sure what both are for. Two colors that are one
everywhere are left alone: somebody may have meant that.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import combinations, islice

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.color.difference import delta_e_2000, lab
from prism.color.space import Color, rgba
from prism.commands.names import counted
from prism.model import grouping
from prism.model.document import Document, Token, shown_path
from prism.model.names import condition_words
from prism.model.values import Condition
from prism.resolution.answer_tables import Fixed, common
from prism.roles.grounds import Guess
from prism.roles.role import Role

#: CIEDE2000 from which two colors side by side are seen as two by most. Common practice, no source: a little over the
#: difference that is just noticed.
TOLD_APART = 2.5
#: Families whose members are one color by mistake; a shadow may set surfaces off, and texts may be alike where
#: contrast is raised.
_NEVER_ONE = ("states", "statuses")
#: Parts of the space of themes that are named at most.
_NAMED = 2
#: Pairs that are looked at most; what is left out is said.
_MOST = 4_000


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each two such colors, with the themes in which they are one."""
    for family, first, second in analysis.once(_pairs)[0]:
        parts, apart = _themes(analysis, first.key, second.key)
        if not parts or not apart:
            continue
        merged = sum(map(analysis.answers.share, parts))
        one, other = shown_path(first.path), shown_path(second.path)
        yield Finding(
            "merged",
            f"{one} and {other} are one color {_where(analysis.document, parts, merged)}, and two in {apart:,} more.",
            first.key,
            themes=merged,
            severity="warning" if family in _NEVER_ONE else "note",
            others=(second.key,),
            fixes=(Fix("Give one of them a color of its own there."),),
        )


def _where(document: Document, parts: Sequence[Fixed], count: int) -> str:
    """The modes of a few parts of the space of themes, with how many themes that are."""
    themes = counted(count, "theme")
    if len(parts) > _NAMED:
        return f"in {themes}"
    conditions = [
        Condition.of(
            {
                axis.key: axis.modes[mode].key
                for axis, mode in zip(document.axes, part, strict=True)
                if mode >= 0
            }
        )
        for part in parts
    ]
    return (
        f"for {' and for '.join(condition_words(document, one) for one in conditions)} ({themes})"
    )


def _themes(analysis: Analysis, first: str, second: str) -> tuple[list[Fixed], int]:
    """The parts of the space of themes in which two colors are one, and in how many themes they are told apart."""
    merged: list[Fixed] = []
    apart = 0
    tables = analysis.answers
    for fixed, answer in tables.of(first):
        for other_fixed, other in tables.of(second):
            both = common(fixed, other_fixed)
            if both is None or answer.color is None or other.color is None:
                continue
            if answer.hex == other.hex:
                merged.append(both)
            elif _distance(answer.color, other.color) >= TOLD_APART:
                apart += tables.share(both)
    return merged, apart


def _distance(one: Color, other: Color) -> float:
    """CIEDE2000 between two opaque colors; 0 where one is translucent, as then what lies under it decides."""
    first, second = rgba(one), rgba(other)
    if first[3] < 1 or second[3] < 1:
        return 0.0
    return float(delta_e_2000(lab(first[:3]), lab(second[:3])))


def _pairs(analysis: Analysis) -> tuple[list[tuple[str, Token, Token]], list[str]]:
    """Each two colors that mean different things and are sure to, with the family they differ in; and what was left
    out, in words."""
    families: dict[tuple[str, ...], list[tuple[Token, str]]] = {}
    unsure = 0
    placed = grouping.groups(analysis.document.tokens)
    for token in analysis.document.tokens:
        guess = analysis.roles.get(token.key)
        if token.type != "color" or guess is None:
            continue
        if not guess.is_sure:
            unsure += 1
            continue
        for family, meaning in _families(token, guess, analysis.roles, placed[token.key][-1]):
            families.setdefault(family, []).append((token, meaning))
    found = (
        (family[0], first, second)
        for family, members in families.items()
        for (first, meaning), (second, other) in combinations(members, 2)
        if meaning != other
    )
    left = [counted(unsure, "color") + " whose role is not sure"] if unsure else []
    looked = list(islice(found, _MOST))
    if next(found, None):
        left.append(f"pairs beyond the first {_MOST:,}")
    return looked, left


def _families(
    token: Token, guess: Guess, guesses: Mapping[str, Guess], group: str
) -> Iterator[tuple[tuple[str, ...], str]]:
    """The families a color belongs to, each with what tells it from the others in it."""
    role = guess.role
    plain = guesses.get(guess.belongs_to) if role.state else None
    if plain is not None and role.state == "hover" and _alike(plain.role, role):
        yield ("states", guess.belongs_to), role.state
    elif not role.state:
        yield ("states", token.key), ""
    if role.kind in ("page", "surface") and not role.detail and not role.state:
        # A shadow sets off what is raised.
        yield ("levels",), "sunken" if role.level < 0 else role.kind
    if role.kind == "status" and not role.state:
        yield ("statuses", role.detail), role.status
    if role.kind == "text" and not role.state and role.detail in ("", "quiet", "hint", "link"):
        yield ("texts", group), role.detail


def _alike(plain: Role, state: Role) -> bool:
    return (plain.kind, plain.detail, plain.status) == (state.kind, state.detail, state.status)


def _looked(analysis: Analysis) -> Looked:
    pairs, left = analysis.once(_pairs)
    words = " and ".join(left)
    return Looked(
        len(pairs),
        "pair of colors that differ in meaning",
        "pairs of colors that differ in meaning",
        words,
    )


CHECK = Check(
    "merged",
    "Merged",
    "Two things that look the same in one mode cannot be told apart there.",
    run,
    _looked,
    "balance",
)
