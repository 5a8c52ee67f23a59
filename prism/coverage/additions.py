"""Making what a coverage lacks, from what is there.

A color that carries words or signs is chosen step by step so that it can be read on its ground in
every mode; every token made comes with the pairing that says so.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping

from prism.changes.structure import add_tokens
from prism.changes.values import add_pairing, set_value
from prism.color import space
from prism.color.contrast import ratio_of
from prism.coverage.needs import BY_ID, Need, look, meeting
from prism.errors import EditError, PrismError
from prism.expressions.typed_input import reference_to, shown_path_or_root
from prism.model.document import Document, Ramp, Token, Use
from prism.model.values import BASE, Condition
from prism.palette import purposes, ramp_edits
from prism.palette.ramp_edits import NewKey, free_name, raw_color
from prism.palette.ramps import oklch
from prism.resolution.contrast import pairing_for
from prism.resolution.current import resolver_of
from prism.roles.lexicon import scheme_named

#: More gaps than this are not filled at once.
_MOST_FILLED = 60


def fill(document: Document, gap: str, new_key: NewKey) -> Document:
    """The document with what a gap lacks, made from what is there."""
    kind, _, key = gap.partition(" ")
    if kind == "label":
        return _label(document, key, new_key)
    need = BY_ID.get(kind)
    if need is None:
        raise EditError("Nothing by that name is missing.")
    token = meeting(document, need)
    if token is not None:
        return _completed(document, token)
    return _MAKERS[need.make](document, need, new_key)


def fill_all(document: Document, new_key: NewKey) -> tuple[Document, int]:
    """The document without gaps, and how many were filled. What cannot be filled is left. Raises
    ``EditError`` where nothing could."""
    filled, count, left = document, 0, set[str]()
    while True:
        gaps = [gap for gap in look(filled).gaps if gap.id not in left]
        if not gaps:
            break
        try:
            filled = fill(filled, gaps[0].id, new_key)
            count += 1
        except PrismError:
            left.add(gaps[0].id)
        if count > _MOST_FILLED:
            break
    if not count:
        raise EditError("Nothing of what is missing can be made from what is there.")
    return filled, count


def _make_page(document: Document, need: Need, new_key: NewKey) -> Document:
    document, ramp = neutral(document, new_key)
    return _mapped(document, need.path, ramp, 0, len(ramp.steps) - 1, new_key)


def _make_card(document: Document, need: Need, new_key: NewKey) -> Document:
    document, ramp = neutral(document, new_key)
    document, white = raw_color(document, "#ffffff", "white", new_key)
    dark = max(len(ramp.steps) - 2, 0)
    values = [(BASE, white.key), *_dark_values(document, ramp.steps[dark])]
    return _semantic(document, need.path, values, new_key)


def _make_ink(document: Document, need: Need, new_key: NewKey) -> Document:
    document, ramp = neutral(document, new_key)
    return _read_on_page(document, need.path, ramp, 15.0, "text", new_key, required=4.5)


def _make_muted(document: Document, need: Need, new_key: NewKey) -> Document:
    document, ramp = neutral(document, new_key)
    return _read_on_page(document, need.path, ramp, 5.0, "text", new_key, required=4.5)


def _make_line(document: Document, need: Need, new_key: NewKey) -> Document:
    document, ramp = neutral(document, new_key)
    return _read_on_page(document, need.path, ramp, 1.3, "decoration", new_key)


def _make_action(document: Document, need: Need, new_key: NewKey) -> Document:
    document, ramp = main(document, new_key)
    return _read_on_page(document, need.path, ramp, 5.5, "graphic", new_key, required=4.5)


def _make_focus(document: Document, need: Need, new_key: NewKey) -> Document:
    document, ramp = main(document, new_key)
    return _read_on_page(document, need.path, ramp, 3.2, "control", new_key, required=3.0)


def _make_signal(document: Document, need: Need, new_key: NewKey) -> Document:
    document, ramp = _hued(document, need, new_key)
    return _read_on_page(document, need.path, ramp, 4.7, "text", new_key, required=4.5)


def _make_veil(document: Document, need: Need, new_key: NewKey) -> Document:
    document, black = raw_color(document, "#000000", "black", new_key)
    document, white = raw_color(document, "#ffffff", "white", new_key)
    made = []
    for base, group in ((black.key, "veil.dark"), (white.key, "veil.light")):
        name = free_name(document, group)
        document = ramp_edits.veils(document, base, (8, 50), name, new_key)
        made.append(document.token_at(f"{name}.08"))
    dark, light = made
    assert dark is not None
    assert light is not None
    values = [(BASE, dark.key), *_dark_values(document, light.key)]
    return _semantic(document, need.path, values, new_key)


_MAKERS: Mapping[str, Callable[[Document, Need, NewKey], Document]] = {
    "page": _make_page,
    "card": _make_card,
    "ink": _make_ink,
    "muted": _make_muted,
    "line": _make_line,
    "action": _make_action,
    "focus": _make_focus,
    "signal": _make_signal,
    "veil": _make_veil,
}


def _label(document: Document, key: str, new_key: NewKey) -> Document:
    """A label for a fill: the lighter or darker end of the neutral ramp, or white, in each mode."""
    fill = document.token(key)
    if fill is None:
        raise EditError("That fill is no longer there.")
    document, ramp = neutral(document, new_key)
    document, white = raw_color(document, "#ffffff", "white", new_key)
    path = shown_path_or_root(document, fill).removesuffix(".fill")
    name = free_name(
        document, f"{path}.label" if path != fill.path else f"{path.replace('.', ' ')} label"
    )
    offered = [white.key, ramp.steps[0], ramp.steps[-1]]
    values = _chosen(document, fill.key, offered, 21.0)
    changed = _semantic(document, name, values, new_key)
    label = changed.token_at(name)
    assert label is not None
    return add_pairing(changed, pairing_for(new_key(), label.key, (fill.key,), "text"))


def _read_on_page(
    document: Document, path: str, ramp: Ramp, aim: float, use: Use, new_key: NewKey,
    *, required: float = 0.0,
) -> Document:  # fmt: skip
    """A semantic token on the step of a ramp that comes nearest to a ratio with the page in every
    mode, and the pairing that says so."""
    page = meeting(document, BY_ID["page"])
    if page is None:
        document = _make_page(document, BY_ID["page"], new_key)
        page = meeting(document, BY_ID["page"])
        assert page is not None
    values = _chosen(document, page.key, ramp.steps, aim, required)
    changed = _semantic(document, path, values, new_key)
    made = changed.token_at(path)
    assert made is not None
    pairing = pairing_for(new_key(), made.key, (page.key,), use)
    return add_pairing(changed, pairing)


def _chosen(
    document: Document, ground: str, steps: Iterable[str], aim: float, required: float = 0.0
) -> list[tuple[Condition, str]]:
    """For the base and every mode that changes the ground, the step whose ratio with it comes
    nearest to ``aim`` without falling below ``required``, by key."""
    resolver = resolver_of(document)
    offered = list(steps)

    def best(theme: tuple[int, ...]) -> str:
        below = resolver.resolve(ground, theme).color
        kept = []
        for place, key in enumerate(offered):
            color = resolver.resolve(key, theme).color
            if color is None or below is None:
                continue
            ratio = ratio_of(color, below)
            kept.append((ratio < required, abs(ratio - aim), place))
        return offered[min(kept)[2]] if kept else offered[0]

    default = resolver.default_theme
    values = [(BASE, best(default))]
    for i, axis in enumerate(document.axes):
        for position, mode in enumerate(axis.modes):
            theme = (*default[:i], position, *default[i + 1 :])
            key = best(theme)
            if key != values[0][1] and mode.key != axis.default:
                values.append((Condition.of({axis.key: mode.key}), key))
    return values


def _completed(document: Document, token: Token) -> Document:
    """A token that lacks a color in some mode takes the one it has in the default theme."""
    resolver = resolver_of(document)
    value = token.value(BASE)
    if value is None:
        won = resolver.winner(token.key, resolver.default_theme)
        value = won[1] if won else next((held for _, held in token.values), None)
    if value is None:
        raise EditError("It has no value in any theme.", fix="Give it one in the Tokens room.")
    if token.value(BASE) is not None:
        raise EditError("What it refers to is broken there.", fix="Fix it in the Tokens room.")
    return set_value(document, token.key, BASE, value)


# What is there to make it from


def neutral(document: Document, new_key: NewKey) -> tuple[Document, Ramp]:
    """The ramp of the least chroma, or a new gray one with a tint of the main color."""
    grays = [(chroma, ramp) for ramp, (_, chroma, _) in _tones(document) if chroma < 0.03]
    if grays:
        return document, min(grays, key=lambda neutral: neutral[0])[1]
    tones = _tones(document)
    hue = tones[0][1][2] if tones else 250.0
    seed = space.hex_text(space.Color("oklch", (0.55, 0.012, hue)))
    return _made(document, "gray", seed, "ink", new_key)


def main(document: Document, new_key: NewKey) -> tuple[Document, Ramp]:
    """The first ramp of the identity, else the first with chroma, else a new blue one."""
    tones = _tones(document)
    colorful = [ramp for ramp, (_, chroma, _) in tones if chroma >= 0.03]
    own = [ramp for ramp in colorful if ramp.purpose == "identity"]
    if own or colorful:
        return document, (own or colorful)[0]
    return _made(document, "main", "#2f6db3", "identity", new_key)


def _hued(document: Document, need: Need, new_key: NewKey) -> tuple[Document, Ramp]:
    """The ramp whose hue is near a signal's, those for signals first, else a new one."""
    alike = [
        (ramp.purpose != "signal", abs((hue - need.hue + 180) % 360 - 180), place, ramp)
        for place, (ramp, (_, chroma, hue)) in enumerate(_tones(document))
        if chroma >= 0.05
    ]
    near = [candidate for candidate in alike if candidate[1] <= (22 if candidate[0] else 35)]
    if near:
        return document, min(near, key=lambda candidate: candidate[:3])[3]
    chroma = max((chroma for _, (_, chroma, _) in _tones(document)), default=0.14)
    wanted = space.Color("oklch", (0.55, min(max(chroma, 0.11), 0.17), need.hue))
    return _made(document, need.id, space.hex_text(wanted), "signal", new_key)


def _tones(document: Document) -> list[tuple[Ramp, tuple[float, float, float]]]:
    """Ramps of at least five opaque steps, each with its most colorful step in OKLCH."""
    resolver = resolver_of(document)
    tones = []
    for ramp in document.ramps:
        colors = [resolver.resolve(key, resolver.default_theme).color for key in ramp.steps]
        opaque = [oklch(color) for color in colors if color is not None and color.alpha >= 1]
        if len(opaque) >= 5:
            tones.append((ramp, max(opaque, key=lambda color: color[1])))
    return tones


def _made(
    document: Document, name: str, seed: str, purpose: str, new_key: NewKey
) -> tuple[Document, Ramp]:
    known = any(known.key == purpose for known in purposes.of(document))
    changed = ramp_edits.add_ramp(
        document,
        free_name(document, name),
        {"seed": seed},
        new_key,
        purpose=purpose if known else "",
    )
    return changed, changed.ramps[-1]


def dark_conditions(document: Document) -> list[Condition]:
    """The dark modes of the first axis that has both dark and other ones, as conditions."""
    for axis in document.axes:
        dark = [mode for mode in axis.modes if _is_dark(mode.name, mode.color_scheme)]
        if dark and len(dark) < len(axis.modes):
            return [
                Condition.of({axis.key: condition.key})
                for condition in dark
                if condition.key != axis.default
            ]
    return []


def _dark_values(document: Document, key: str) -> list[tuple[Condition, str]]:
    return [(condition, key) for condition in dark_conditions(document)]


def _is_dark(name: str, scheme: str) -> bool:
    return (scheme or scheme_named(name)) == "dark"


def _mapped(
    document: Document, path: str, ramp: Ramp, light: int, dark: int, new_key: NewKey
) -> Document:
    values = [(BASE, ramp.steps[light]), *_dark_values(document, ramp.steps[dark])]
    return _semantic(document, path, values, new_key)


def _semantic(
    document: Document, path: str, values: Iterable[tuple[Condition, str]], new_key: NewKey
) -> Document:
    """A semantic token that refers to other tokens by key; the path made free where it is taken."""
    stored = []
    for condition, key in values:
        target = document.token(key)
        assert target is not None
        stored.append((condition, reference_to(document, target)))
    token = Token(new_key(), path, "color", "semantic", tuple(stored))
    return add_tokens(document, [token])
