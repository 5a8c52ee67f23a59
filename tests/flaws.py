"""Flaws of every kind, planted at random in sound documents: what each check is held against."""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache

from prism import starters
from prism.model.document import Document, Mode, Pairing, Scheme, TellingApart, Token
from prism.model.values import BASE, Condition, Expression
from prism.starters.plan import NamedColor, sorted_out

COLORS = ("#0b6e75", "#7a3b69", "#2b5d8a", "#b4552d", "#3d6b35", "#5a4fb0", "#8a5a00", "#a33a4a")


@dataclass(frozen=True, slots=True)
class Planted:
    """A document with one flaw, the check that must find it, and a token that the finding must be about, by key; empty
    where it is about none."""

    document: Document
    check: str
    token: str = ""


#: So many different sound documents there are.
_SOUND = 12


def sound(seed: int) -> Document:
    """A whole scheme of random brand colors in light and dark."""
    return _built(seed % _SOUND)


@lru_cache(maxsize=_SOUND)
def _built(seed: int) -> Document:
    rng = random.Random(seed)
    colors = [
        NamedColor(f"c{i}", color) for i, color in enumerate(rng.sample(COLORS, rng.randint(1, 2)))
    ]
    plan = replace(sorted_out(colors), name="Sound")
    numbers = iter(range(100_000))
    return starters.build(plan, lambda: f"k{next(numbers)}")


def plant(kind: str, document: Document, rng: random.Random) -> Planted:
    """A document with a flaw of a kind, by the id of the check that must find it."""
    return KINDS[kind](document, rng)


def _tokens(document: Document, rng: random.Random, *tiers: str) -> Token:
    """A color whose value everywhere is a reference, of some tiers."""
    return rng.choice(
        [
            token
            for token in document.tokens
            if token.tier in tiers
            and token.type == "color"
            and isinstance(value := token.value(BASE), Expression)
            and value.text.startswith("{")
        ]
    )


def _with(document: Document, token: Token, **changes: object) -> Document:
    changed = replace(token, **changes)  # type: ignore[arg-type]
    return replace(
        document, tokens=tuple(changed if t.key == token.key else t for t in document.tokens)
    )


def _valued(document: Document, token: Token, text: str) -> Document:
    """The document in which a token has one value everywhere."""
    return _with(document, token, values=((BASE, Expression(text)),))


def _added(document: Document, *tokens: Token) -> Document:
    return replace(document, tokens=(*document.tokens, *tokens))


def _color(key: str, path: str, text: str, tier: str = "semantic") -> Token:
    return Token(key, path, "color", tier, ((BASE, Expression(text)),))  # type: ignore[arg-type]


def _contrast(document: Document, rng: random.Random) -> Planted:
    name = f"text.pale{rng.randint(1, 99)}"
    pale = _color("planted", name, rng.choice(("#9a9a9a", "#b0a0a0", "#90a0b0")))
    page = next(token for token in document.tokens if token.path == "surface.page")
    pairing = Pairing("planted", "planted", (page.key,))
    built = _added(document, pale)
    return Planted(replace(built, pairings=(*built.pairings, pairing)), "contrast", "planted")


def _elevation(document: Document, rng: random.Random) -> Planted:
    surfaces = {t.path: t for t in document.tokens}
    page, card = surfaces["surface.page"], surfaces["surface.card"]
    return Planted(_with(document, card, values=page.values), "elevation", card.key)


def _merged(document: Document, rng: random.Random) -> Planted:
    texts = {t.path: t for t in document.tokens}
    main, quiet = texts["text.main"], texts[rng.choice(("text.quiet", "text.hint"))]
    values = (*(v for v in quiet.values if v[0] == BASE), *(v for v in main.values if v[0] != BASE))
    return Planted(_with(document, quiet, values=values), "merged", quiet.key)


def _vision(document: Document, rng: random.Random) -> Planted:
    red, green = rng.choice(
        (("#b25000", "#8a6a00"), ("#c0392b", "#96640a"), ("#a0522d", "#7d6608"))
    )
    first, second = _color("p1", "line.first", red), _color("p2", "line.second", green)
    built = _added(document, first, second)
    told = TellingApart("lines", "Lines", ("p1", "p2"))
    return Planted(replace(built, telling_apart=(told,)), "vision", "p1")


def _coverage(document: Document, rng: random.Random) -> Planted:
    turning = [
        t
        for t in document.tokens
        if t.path in ("surface.page", "surface.card", "text.main", "text.muted")
    ]
    token = rng.choice(turning)
    base = token.value(BASE)
    assert isinstance(base, Expression)
    return Planted(_valued(document, token, base.text), "coverage", token.key)


def _broken(document: Document, rng: random.Random) -> Planted:
    token = _tokens(document, rng, "semantic")
    text = rng.choice(("{gone.by}", "{nothing}", f"{{{token.path}}}"))
    return Planted(_valued(document, token, text), "broken", token.key)


def _absent(document: Document, rng: random.Random) -> Planted:
    token = _tokens(document, rng, "semantic")
    axis = document.axes[0]
    mode = rng.choice(axis.modes)
    value = token.value(BASE)
    assert value is not None
    values = ((Condition.of({axis.key: mode.key}), value),)
    return Planted(_with(document, token, values=values), "absent", token.key)


def _literal(document: Document, rng: random.Random) -> Planted:
    token = _tokens(document, rng, "semantic")
    return Planted(_valued(document, token, rng.choice(COLORS)), "literal", token.key)


def _raw(document: Document, rng: random.Random) -> Token:
    return rng.choice([token for token in document.tokens if token.is_raw_color])


def _skipping(document: Document, rng: random.Random) -> Planted:
    raw = _raw(document, rng)
    part = _color("planted", f"button.edge{rng.randint(1, 99)}", f"{{{raw.path}}}", "component")
    return Planted(_added(document, part), "skipping", "planted")


def _meaning(document: Document, rng: random.Random) -> Planted:
    page = next(token for token in document.tokens if token.path == "surface.page")
    text = replace(_color("planted", "text.on", "{surface.page}"), role="text inverse")
    return Planted(_added(document, text), "meaning", page.key)


def _duplicate(document: Document, rng: random.Random) -> Planted:
    name = f"spare{rng.randint(1, 99)}"
    first = _color("p1", name, "#123457", "raw")
    second = _color("p2", f"{name}-again", "#123457", "raw")
    return Planted(_added(document, first, second), "duplicate", "p2")


def _unused(document: Document, rng: random.Random) -> Planted:
    odd = _color(
        "planted", f"odd{rng.randint(1, 99)}", f"#{rng.randint(0x222222, 0xDDDDDD):06x}", "raw"
    )
    return Planted(_added(document, odd), "unused", "planted")


def _deprecated(document: Document, rng: random.Random) -> Planted:
    token = _tokens(document, rng, "semantic")
    target = document.token_at(token.value(BASE).text.strip("{}"))  # type: ignore[union-attr]
    assert target is not None
    return Planted(_with(document, target, deprecated="Use another"), "deprecated", target.key)


def _private(document: Document, rng: random.Random) -> Planted:
    token = _tokens(document, rng, "semantic")
    changes = {"private": True, "export_names": (("css", f"given{rng.randint(1, 99)}"),)}
    return Planted(_with(document, token, **changes), "private", token.key)


def _naming(document: Document, rng: random.Random) -> Planted:
    top = rng.choice(("text", "surface"))
    scheme = Scheme("s", "ours", (("area", (top,)), ("role", tuple(_leaves(document, top)))))
    odd = _color("planted", f"{top}.zebra{rng.randint(1, 99)}", "{surface.page}")
    return Planted(replace(_added(document, odd), schemes=(scheme,)), "naming", "planted")


def _leaves(document: Document, top: str) -> list[str]:
    paths = (token.path.removesuffix(".$root") for token in document.tokens if token.top == top)
    return list(dict.fromkeys(path.partition(".")[2] for path in paths if "." in path))


def _clash(document: Document, rng: random.Random) -> Planted:
    token = _tokens(document, rng, "semantic")
    other = _color("planted", token.path.removesuffix(".$root").replace(".", "-"), "{surface.page}")
    return Planted(_added(document, other), "clash", "planted")


def _same_modes(document: Document, rng: random.Random) -> Planted:
    axis = document.axes[0]
    twin = replace(axis, modes=(*axis.modes, Mode("n1", "noon"), Mode("n2", "late noon")))
    return Planted(replace(document, axes=(twin, *document.axes[1:])), "same-modes")


def _gamut(document: Document, rng: random.Random) -> Planted:
    hue = rng.randint(0, 359)
    vivid = _color("planted", f"vivid{hue}", f"oklch(0.65 0.37 {hue})", "raw")
    return Planted(_added(document, vivid), "gamut", "planted")


def _unit(document: Document, rng: random.Random) -> Planted:
    text = rng.choice(("2em", "4vw", "calc(1rem + 3px)", "3ch"))
    length = Token("planted", "gap.odd", "dimension", "raw", ((BASE, Expression(text)),))
    return Planted(_added(document, length), "unit", "planted")


def _balance(document: Document, rng: random.Random) -> Planted:
    page = next(token for token in document.tokens if token.path == "surface.page")
    dark = next(mode for mode in document.axes[0].modes if mode.color_scheme == "dark")
    loud = Token(
        "planted", "accent.loud", "color", "semantic",
        (
            (BASE, Expression("#6f6f9f")),
            (Condition.of({document.axes[0].key: dark.key}), Expression("#f4f4ff")),
        ),
        role="fill accent",
    )  # fmt: skip
    built = _added(document, loud)
    pairing = Pairing("planted", "planted", (page.key,), "graphic", 3)
    return Planted(replace(built, pairings=(*built.pairings, pairing)), "balance", "planted")


KINDS: dict[str, Callable[[Document, random.Random], Planted]] = {
    "contrast": _contrast,
    "balance": _balance,
    "elevation": _elevation,
    "merged": _merged,
    "vision": _vision,
    "coverage": _coverage,
    "broken": _broken,
    "absent": _absent,
    "literal": _literal,
    "skipping": _skipping,
    "meaning": _meaning,
    "duplicate": _duplicate,
    "unused": _unused,
    "deprecated": _deprecated,
    "private": _private,
    "naming": _naming,
    "clash": _clash,
    "same-modes": _same_modes,
    "gamut": _gamut,
    "unit": _unit,
}
