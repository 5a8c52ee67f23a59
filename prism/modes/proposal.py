"""A mode from a mode: same values, utility tokens mirrored along their ladder, meaning and brand
tuned to stand out as much as they do in the mode they come from. Proposed row by row.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import replace

from prism.changes.axes import add_axis, add_mode
from prism.changes.values import set_values
from prism.errors import EditError
from prism.expressions.values import references
from prism.model.document import Axis, Document, Mode, Token
from prism.model.values import Condition, Expression, Value
from prism.modes import counterpart, inverted_overlays, schemes
from prism.modes.draft import Row, Trial
from prism.palette.mapping import along, is_rung, ladder_of, opposite
from prism.resolution.contrast import audit
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver, Theme
from prism.roles import rules
from prism.roles.grounds import Guess
from prism.roles.guess import guess
from prism.roles.lexicon import scheme_named
from prism.solver import levels
from prism.solver.levels import Levels

#: Kinds of roles whose colors are mirrored along their ladder; others carry meaning or brand.
#: The share of pairings from which on the palette is not the way. Common practice, no source.
_MANY = 0.05
_UTILITY = ("page", "surface", "text", "line", "overlay", "shadow")


def propose(document: Document, axis: str, source: str, key: str, scheme: str = "") -> list[Row]:
    """What each semantic and component color would hold in a new mode ``key`` made of ``source``.

    Tokens that refer to others of these tiers follow them and get no row of their own. Where the
    surfaces stand on no ladder of the palette, or many pairings fall short along it, what each color
    is for decides, for a mode of a color ``scheme``.
    """
    owner = document.axis(axis)
    if owner is None or all(mode.key != source for mode in owner.modes):
        raise EditError("The mode to start from is no longer there.")
    resolver = resolver_of(document)
    guesses = guess(document, resolver)
    judged = rules.joined(document, rules.kept(document, guesses))
    demanded = replace(document, pairings=rules.demanded(document, guesses))
    resolver = resolver_of(judged, resolver)
    theme = resolver.theme({axis: source})
    trial = Trial(resolver, axis, source, key)
    elevation = levels.find(resolver, theme, guesses)
    if elevation is not None:
        mirrored = _along_the_palette(trial, theme, guesses, elevation)
        short = _falling_short(demanded, axis, source, mirrored)
        if short <= _MANY:
            return mirrored
    by_role = counterpart.rows(resolver, axis, source, key, scheme)
    if elevation is None:
        return by_role or _along_the_palette(trial, theme, guesses, None)
    if by_role and _falling_short(demanded, axis, source, by_role) < short:
        return by_role
    return mirrored


def _falling_short(judged: Document, axis: str, source: str, rows: list[Row]) -> float:
    """The share of pairings that fall short in a mode of these rows and not where it comes from, with the other axes
    in their default modes."""
    pairs = judged.pairings
    before = resolver_of(judged)
    mode = Mode("tried", "tried")
    after = Resolver(with_rows(judged, axis, mode, source, _for(rows, axis), tried=True), before)
    was = audit(before, pairs, [before.theme({axis: source})])
    now = audit(after, pairs, [after.theme({axis: "tried"})])
    worse = sum(then.fails and not first.fails for first, then in zip(was, now, strict=True))
    return worse / max(len(pairs), 1)


def _for(rows: list[Row], axis: str) -> list[Row]:
    """Rows for the mode that is tried."""

    def here(condition: Condition) -> Condition:
        return Condition.of({**dict(condition.picks), axis: "tried"})

    return [
        replace(row, others=tuple((here(at), value) for at, value in row.others)) for row in rows
    ]


def _along_the_palette(
    trial: Trial, theme: Theme, guesses: Mapping[str, Guess], elevation: Levels | None
) -> list[Row]:
    """Rows by the ladders of the palette: surfaces by their levels, utility colors mirrored, and meaning
    and brand tuned. Long because each kind of token goes its own way through the same trial."""
    resolver = trial.before
    document = resolver.document
    surfaces = elevation.ranks if elevation else {}
    mirrored: dict[str, str] = {}
    meant: list[tuple[Token, Value]] = []
    rising: list[tuple[Token, Value]] = []
    for token in document.tokens:
        won = resolver.winner(token.key, theme)
        if token.tier == "raw" or token.type != "color" or won is None:
            continue
        if token.key in surfaces:
            rising.append((token, won[1]))
        elif not is_rung(document, token) and not _follows(document, won[1]):
            turned = _mirrored(trial, won[1]) if _is_utility(guesses.get(token.key)) else None
            if turned is not None:
                ladder = ladder_of(document, won[1])
                words = "each step as far from the other end"
                if ladder is not None:
                    mirrored[token.key] = opposite(*ladder)
                    steps, place = len(ladder[0]), ladder[1]
                    words = f"step {place + 1} of {steps} becomes {steps - place}"
                trial.put(token, won[1], turned, "mirrored", words)
            elif isinstance(won[1], Expression):
                meant.append((token, won[1]))
    given = levels.assign(resolver, theme, elevation, mirrored) if elevation else {}
    for token, value in rising:
        trial.put(token, value, given[token.key], "level", "levels get lighter as they rise")
    page = next((key for key, known in guesses.items() if known.role.kind == "page"), "")
    inverted_overlays.veils(trial, theme, guesses)
    inverted_overlays.partings(trial, theme, guesses, page)
    trial.tune(meant, elevation.first if elevation and elevation.first else page, _owners(guesses))
    trial.fix(mirrored)
    inverted_overlays.other_themes(trial)
    order = {token.key: place for place, token in enumerate(document.tokens)}
    differing = [row for row in trial.rows.values() if row.proposed != row.now or row.others]
    return sorted(differing, key=lambda row: order[row.token.key])


def _owners(guesses: Mapping[str, Guess]) -> dict[str, str]:
    """What each label stands on, by key, apart from disabled ones."""
    return {
        key: known.belongs_to
        for key, known in guesses.items()
        if known.role.kind == "label" and known.role.state != "disabled" and known.belongs_to
    }


def with_appearance(document: Document, key: str) -> tuple[Document, str, str]:
    """A document without an axis with one of appearances, whose only mode is what is there, light or
    dark by its page; and the keys of both, made of ``key``."""
    guesses = guess(document, resolver_of(document))
    page = next((token for token, known in guesses.items() if known.role.kind == "page"), "")
    resolver = resolver_of(document)
    scheme = schemes.seen(resolver, page, resolver.default_theme) or "light"
    mode = Mode(f"{key}-from", scheme, color_scheme=scheme)
    axis = Axis(f"{key}-axis", "appearance", (mode,), mode.key)
    return add_axis(document, axis), axis.key, mode.key


def scheme_of(document: Document, name: str, axis: str = "", source: str = "") -> str:
    """The color scheme of a mode by its name; else the other one than that of the mode it is made of;
    empty where neither says."""
    if said := scheme_named(name):
        return said
    owner = document.axis(axis)
    from_mode = next((m for m in owner.modes if m.key == source), None) if owner else None
    return {"light": "dark", "dark": "light"}.get(from_mode.color_scheme if from_mode else "", "")


def take(
    document: Document, axis: str, mode: Mode, source: str, accepted: Collection[str]
) -> Document:
    """The document with a mode that is a copy of ``source`` but for the proposed rows accepted, by
    token key."""
    rows = propose(document, axis, source, mode.key, mode.color_scheme)
    kept = [row for row in rows if row.token.key in accepted]
    return with_rows(document, axis, mode, source, kept)


def with_rows(
    document: Document,
    axis: str,
    mode: Mode,
    source: str,
    rows: Iterable[Row],
    *,
    tried: bool = False,
) -> Document:
    """The document with a mode that is a copy of ``source`` but for these rows; ``tried`` as in
    ``set_values``."""
    condition = Condition.of({axis: mode.key})
    changed = add_mode(document, axis, mode, source)
    settings = [
        (row.token.key, at, value)
        for row in rows
        for at, value in ((condition, row.proposed), *row.others)
    ]
    return set_values(changed, settings, tried=tried)


def _is_utility(known: Guess | None) -> bool:
    """Whether a color is there for reading and standing on, and carries neither meaning nor brand."""
    return known is not None and (
        known.role.kind in _UTILITY or known.role.detail in ("field", "tint")
    )


def _mirrored(trial: Trial, value: Value) -> Value | None:
    """A value mirrored along the ladders it stands on; None where not all of it stands on one, or
    something shines through one."""
    document = trial.before.document
    for path in references(value, "color"):
        ladder = ladder_of(document, Expression("{" + path + "}"))
        if ladder is None or not trial.opaque(ladder[0]):
            return None
    return along(document, value, "color", opposite)


def _follows(document: Document, value: Value) -> bool:
    """Whether a value refers to a semantic token that is no rung, and so follows it."""
    targets = [document.token_at(path) for path in references(value, "color")]
    return any(target is not None and not is_rung(document, target) for target in targets)
