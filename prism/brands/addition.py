"""A brand more: its ramps, and what the tokens that show a brand refer to in its mode.

No token is made twice: where a token refers to a brand's ramp it refers, in the mode of the new brand,
to the like step of the new ramp. What would fall short there is moved to the nearest step that passes.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from prism.brands.draft import CORNERS, Brand, BrandMaker
from prism.changes.axes import add_axis, add_mode
from prism.errors import EditError
from prism.expressions.typed_input import reference_to
from prism.model.document import Axis, Document, Mode
from prism.palette.alike import colors
from prism.palette.mapping import ladder_of
from prism.palette.ramp_edits import NewKey
from prism.palette.ramps import oklch
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver
from prism.roles.grounds import Guess
from prism.roles.guess import guess
from prism.roles.lexicon import words_of

#: Words that call an axis one of brands. Common practice, no source.
_WORDS = frozenset(
    (
        "brand",
        "brands",
        "marke",
        "marken",
        "marca",
        "marcas",
        "marque",
        "client",
        "product",
        "carrier",
    )
)
#: Roles that show a brand, and how much each says about which ramp leads.
_SHOWING = {
    ("fill", "action"): 100, ("text", "link"): 10, ("focus", ""): 5, ("fill", "accent"): 1,
}  # fmt: skip
#: A ramp without a color of at least this OKLCH chroma is a neutral.
_COLORED = 0.03


@dataclass(frozen=True, slots=True)
class NewBrand:
    """A brand to be added: its name, its colors (name and text, the leading one first), and what else
    is its own. ``corners`` is one of ``CORNERS``, ``texts`` are values of tokens by key, as a typeface
    or a name. ``first`` names the mode of what is there, where there is no axis of brands yet."""

    name: str
    colors: tuple[tuple[str, str], ...] = ()
    corners: str = ""
    texts: tuple[tuple[str, str], ...] = ()
    first: str = ""


def axis_of(document: Document) -> Axis | None:
    """The axis whose modes are brands, or None."""
    return next((axis for axis in document.axes if _WORDS & {*words_of(axis.name)}), None)


def leading(document: Document, guesses: Mapping[str, Guess]) -> list[tuple[str, ...]]:
    """The ramps that show the brand, as steps by key: what actions, links and the focus refer to, the
    leading one first, then those of accents. Grays lead where nothing else does."""
    resolver = resolver_of(document)
    counts: Counter[tuple[str, ...]] = Counter()
    grays: Counter[tuple[str, ...]] = Counter()
    for key, known in guesses.items():
        weight = _SHOWING.get((known.role.kind, known.role.detail))
        if weight is None or known.role.state == "disabled":
            continue
        for target in _raw_targets(resolver, key):
            steps = _family(document, target)
            if steps:
                (counts if _is_colored(document, steps) else grays)[steps] += weight
    return [steps for steps, _ in (counts or grays).most_common()]


def _raw_targets(resolver: Resolver, key: str) -> Iterator[str]:
    """The raw tokens that a token comes to, in any theme, by key."""
    seen, work = {key}, [key]
    while work:
        current = work.pop()
        token = resolver.document.token(current)
        if token is not None and token.tier == "raw":
            yield current
            continue
        fresh = [target for target in resolver.all_targets(current) if target not in seen]
        seen.update(fresh)
        work += fresh


def _family(document: Document, key: str) -> tuple[str, ...]:
    """The steps of the ramp of a raw color, or the raw colors beside it; empty for a single one."""
    for ramp in document.ramps:
        if key in ramp.steps or key == ramp.base:
            return ramp.steps if len(ramp.steps) >= 3 else ()
    token = document.token(key)
    ladder = ladder_of(document, reference_to(document, token)) if token is not None else None
    return ladder[0] if ladder is not None else ()


def _is_colored(document: Document, steps: Sequence[str]) -> bool:
    shown = [color for color in colors(document, steps) if color is not None]
    return max((oklch(color)[1] for color in shown), default=0.0) >= _COLORED


def add(document: Document, new: NewBrand, new_key: NewKey) -> Brand:
    """The document with a brand more. Raises ``EditError`` where its name is taken, and where no token
    refers to the color of a brand."""
    guesses = guess(document, resolver_of(document))
    sources = leading(document, guesses)
    if new.colors and not sources:
        raise EditError(
            "No action, link or focus refers to a ramp yet, so nothing says what the brand’s color is.",
            fix="Link their colors to a ramp first, under Tokens, Link.",
        )
    if new.corners not in CORNERS:
        raise EditError(f"“{new.corners[:40]}” is no choice for corners.")
    made, axis, mode, like = _with_mode(document, new, new_key)
    maker = BrandMaker(made, axis, mode, like)
    for steps, (name, text) in zip(sources, new.colors, strict=False):
        maker.add_ramp(steps, name or new.name, text, new_key)
    for name, text in new.colors[len(sources) :]:
        maker.add_ramp((), name or new.name, text, new_key)
    maker.map_references()
    maker.show_own_colors(guesses)
    maker.set_corners(new.corners)
    maker.set_texts(new.texts)
    return maker.finished()


def _with_mode(
    document: Document, new: NewBrand, new_key: NewKey
) -> tuple[Document, str, str, str]:
    """The document with the mode of a brand, and the keys of axis, mode and the mode it starts from."""
    name = new.name.strip()
    if not name:
        raise EditError("A brand needs a name.")
    axis = axis_of(document)
    if axis is None:
        first = Mode(new_key(), new.first.strip() or document.name or "first")
        if first.name == name:
            raise EditError(
                f"“{name}” is what the first brand is called.", fix="Type another name."
            )
        axis = Axis(new_key(), "brand", (first,), first.key, "Whose product it is")
        document = add_axis(document, axis)
    mode = Mode(new_key(), name)
    return add_mode(document, axis.key, mode), axis.key, mode.key, axis.default
