"""What turns over beside texts and surfaces in a mode made of another: veils, what parts a focus from the
page, and values that hold in some themes of the other axes alone."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from prism.color import space
from prism.color.contrast import lightness
from prism.expressions.typed_input import reference_to
from prism.model.document import Token
from prism.model.values import Condition, Expression, Value
from prism.modes.draft import Row, Trial
from prism.palette.mapping import is_rung, ladder_of
from prism.palette.ramp_edits import is_of_palette
from prism.resolution.resolver import Theme
from prism.roles.grounds import Guess

#: A color that differs from the page by less than this in L* is the page's own. Common practice, no source.
_LIKE_THE_PAGE = 12.0


def veils(trial: Trial, theme: Theme, guesses: Mapping[str, Guess]) -> None:
    """Put overlays of states, as what is pointed at, from a dark veil to the light veil of the palette whose opacity is
    nearest, and the other way round. What dims a whole page stays as it is."""
    resolver = trial.before
    document = resolver.document
    translucent = []
    for token in document.tokens:
        of_palette = is_of_palette(resolver, token)
        color = resolver.resolve(token.key, theme).color if of_palette else None
        if color is not None and 0 < color.alpha < 1:
            translucent.append((token, color.alpha, _light(color)))
    for token in document.tokens:
        known, won = guesses.get(token.key), resolver.winner(token.key, theme)
        now = resolver.resolve(token.key, theme).color
        is_state = known is not None and known.role.kind == "overlay" and bool(known.role.state)
        if not is_state or won is None or now is None:
            continue
        if ladder_of(document, won[1]) is None or now.alpha >= 1:
            continue
        light = _light(now)
        others = [veil for veil in translucent if (veil[2] > 50) != (light > 50)]
        if others:
            nearest = min(others, key=lambda veil: (abs(veil[1] - now.alpha), -veil[1]))
            words = "a light veil on dark" if nearest[2] > 50 else "a dark veil on light"
            trial.put(token, won[1], reference_to(document, nearest[0]), "mirrored", words)


def partings(trial: Trial, theme: Theme, guesses: Mapping[str, Guess], page: str) -> None:
    """Let what parts a focus from its surroundings, in the color of the page, be the new page."""
    resolver = trial.before
    row = trial.rows.get(page)
    ground = resolver.resolve(page, theme).color if page else None
    if row is None or ground is None:
        return
    for token in resolver.document.tokens:
        known, won = guesses.get(token.key), resolver.winner(token.key, theme)
        color = resolver.resolve(token.key, theme).color
        if known is None or known.role.kind != "focus" or won is None or color is None:
            continue
        if color.alpha >= 1 and abs(_light(color) - _light(ground)) < _LIKE_THE_PAGE:
            trial.put(token, won[1], row.proposed, "mirrored", "the color of the page, as before")


def other_themes(trial: Trial) -> None:
    """Give each token the values that it has in some themes of the other axes too, turned as its own: as
    many steps on, on the other side."""
    axis = trial.axis
    source = trial.before.document.axes[trial.before.axis_index[axis]]
    mode = source.modes[trial.was[trial.before.axis_index[axis]]].key
    for token in trial.before.document.tokens:
        won = trial.before.winner(token.key, trial.was)
        if token.tier == "raw" or token.type != "color" or won is None:
            continue
        row = trial.rows.get(token.key) or Row(
            token, won[1], won[1], "mirrored", "the same from both ends"
        )
        others = []
        for condition, value in token.values:
            picks = dict(condition.picks)
            if set(picks) - {axis} and picks.get(axis, mode) == mode:
                turned = _turned(trial, row, token, value)
                if turned is not None and turned != value:
                    others.append((Condition.of({**picks, axis: trial.key}), turned))
        if others:
            trial.rows[token.key] = replace(row, others=(*row.others, *others))


def _turned(trial: Trial, row: Row, token: Token, value: Value) -> Expression | None:
    """A value of some themes, moved along its ladder as the token's own value was: on the same ladder as
    far to the other side."""
    document = trial.before.document
    now, then = (ladder_of(document, stored) for stored in (row.now, row.proposed))
    here = ladder_of(document, value)
    if now is None or then is None or here is None or row.reason == "level":
        return None
    if now[0] != then[0] or not trial.opaque(here[0]):
        return None
    sign = -1 if here[0] == now[0] else 1
    place = then[1] + sign * (here[1] - now[1])
    step = document.token(here[0][min(max(place, 0), len(here[0]) - 1)])
    assert step is not None
    return reference_to(document, step) if is_rung(document, step) else None


def _light(color: space.Color) -> float:
    return float(lightness(space.rgba(color)[:3]))
