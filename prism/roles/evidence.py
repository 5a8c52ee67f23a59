"""What a name and a color say of a token, before they are weighed."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

from prism.color import space
from prism.color.contrast import ratio_of_luminances, relative_luminance
from prism.model.document import Document, Token
from prism.resolution.resolver import Resolver
from prism.roles import uses
from prism.roles.lexicon import meanings_of, words_for, words_of
from prism.roles.role import STATES, STATUSES

#: Words that say where a color is used in a component, and not in which.
_PARTS = frozenset(("surface", "text", "label", "icon", "fill", "line", "rest", "nothing", *STATES))
#: Words that mean a part and a place at once keep their place: the body of a page.
_PLACES = frozenset(("page", "card", "action", "field", "link", "tooltip", "overlay", "accent"))
#: Meanings that say nothing of the part that a color has.
_MUTE = frozenset(("quiet", "soft", "strong", "main", "nothing", "rest", *STATES))
#: Parts that the uses of a token can name.
#: Words that name a mode.
_MODE_WORDS = words_for("dark") | words_for("light")
_USES = ("text", "icon", "surface", "fill", "line", "ring", "focus", "shadow", "label")
_COMMON = 0.85
_FEW = 4


@dataclass(frozen=True)
class Name:
    """What a name says: the meanings of its words in order."""

    words: tuple[str, ...]
    meanings: tuple[frozenset[str], ...]

    @cached_property
    def all(self) -> frozenset[str]:
        """Every meaning of every word."""
        return frozenset().union(*self.meanings)

    @cached_property
    def stem(self) -> frozenset[str]:
        """The words that say of what it is a part: those without parts and states."""
        return frozenset(
            word
            for word, held in zip(self.words, self.meanings, strict=True)
            if not held & _PARTS or held & _PLACES
        )

    @cached_property
    def state(self) -> str:
        """The state that the name speaks of; empty for the plain one."""
        return next((state for state in ("disabled", *STATES) if state in self.all), "")

    @cached_property
    def status(self) -> str:
        """The status that the name speaks of."""
        return next((status for status in STATUSES if status in self.all), "")


@lru_cache(maxsize=65536)
def _name(words: tuple[str, ...]) -> Name:
    return Name(words, tuple(meanings_of(word) for word in words))


@dataclass(frozen=True, slots=True)
class Named:
    """A token with what its name and its color say."""

    token: Token
    name: Name
    color: space.Color | None

    @property
    def words(self) -> tuple[str, ...]:
        return self.name.words

    @property
    def meanings(self) -> tuple[frozenset[str], ...]:
        return self.name.meanings

    @property
    def all(self) -> frozenset[str]:
        """Every meaning of every word."""
        return self.name.all

    @property
    def stem(self) -> frozenset[str]:
        """The words that say of what it is a part."""
        return self.name.stem

    @property
    def state(self) -> str:
        """The state that the name speaks of."""
        return self.name.state

    @property
    def status(self) -> str:
        """The status that the name speaks of."""
        return self.name.status

    def has(self, *names: str) -> bool:
        """Whether some word has one of these meanings."""
        return not self.name.all.isdisjoint(names)

    def last(self, name: str) -> int:
        """The place of the last word with a meaning; -1 without one."""
        if name not in self.name.all:
            return -1
        return max(i for i, held in enumerate(self.name.meanings) if name in held)

    @property
    def has_part(self) -> bool:
        """Whether the name says which part of something it colors."""
        return self.has("surface", "text", "label", "icon", "fill", "line", "ring", "hint")

    @property
    def says_nothing(self) -> bool:
        """Whether no word of its name says what it is for."""
        return self.name.all <= {"nothing"}

    @property
    def used(self) -> str:
        """The part that the uses of the token say it colors, the first one first, where its name says
        none; else empty. A background is a surface only where the name says at least how strong it
        is: a color of the palette may be behind anything."""
        if not self.token.uses or not self.name.all <= _MUTE:
            return ""
        named = (meanings_of(word) for use in self.token.uses for word in words_of(use))
        used = next((part for held in named for part in _USES if part in held), "")
        return used if used not in ("surface", "fill") or self.name.all - {"nothing"} else ""

    @property
    def parts(self) -> tuple[str, ...]:
        """The parts that its style sheet colors with it, what is colored most first."""
        return uses.parts(self.token.uses)

    @property
    def translucent(self) -> bool:
        return self.color is not None and self.color.alpha < 1

    @property
    def chroma(self) -> float:
        """OKLCH chroma; 0 without a color."""
        if self.color is None:
            return 0.0
        return float(space.engine(self.color).convert("oklch").coords(nans=False)[1])

    def ratio(self, other: Named) -> float:
        """The contrast ratio with another color; 1 where one of them has none."""
        if self.color is None or other.color is None:
            return 1.0
        return float(ratio_of_luminances(_luminance(self.color), _luminance(other.color)))


@lru_cache(maxsize=65536)
def _luminance(color: space.Color) -> float:
    return float(relative_luminance(space.rgba(color)[:3]))


def named(
    document: Document, resolver: Resolver, own: Mapping[str, frozenset[str]] | None = None
) -> list[Named]:
    """The tokens that have roles, colors and shadows that are no steps of a palette, in order."""
    theme = resolver.default_theme
    chosen = [(token, words_of(token.path)) for token in document.tokens if _can_have(token)]
    common = _common_words([words for _, words in chosen])
    steps = {key for ramp in document.ramps for key in (*ramp.steps, ramp.base)}
    # What others refer to, and what says nothing of a use, is a color of the palette.
    used = {key for token, _ in chosen for key in resolver.all_targets(token.key)}
    rungs = _rungs(chosen, used)
    families = _families(chosen)
    plain = {words for _, words in chosen}
    readings = []
    for token, words in chosen:
        telling = tuple(word for i, word in enumerate(words) if word not in common or i > 2)
        name = _name(telling)
        if own:
            name = Name(telling, tuple(meanings_of(word, own) for word in telling))
        is_step = token.key in steps or (
            words[:-1] in families or _is_step(telling, name.meanings, is_used=token.key in used)
            if token.tier == "raw"
            else words[:-1] in rungs and words[-1].isdigit() and name.all.isdisjoint(_PARTS)
        )
        is_value = token.tier == "raw" and token.key in used and _without_mode(words) in plain
        if (is_step or is_value) and not token.role and not _is_put(token):
            continue
        readings.append(Named(token, name, resolver.resolve(token.key, theme).color))
    return readings


def _is_put(token: Token) -> bool:
    """Whether its style sheet colors parts of known elements with a color, whatever it is called."""
    return any(use.element or use.state for use in uses.read(token.uses))


def _without_mode(words: tuple[str, ...]) -> tuple[str, ...]:
    """The name of what a color is the value of in one mode: ``border color`` of ``light border color``; empty where it
    speaks of no mode."""
    rest = tuple(word for word in words if word not in _MODE_WORDS)
    return rest if rest != words else ()


def _can_have(token: Token) -> bool:
    return token.type in ("color", "shadow")


def _common_words(names: Sequence[tuple[str, ...]]) -> frozenset[str]:
    """Words without a meaning that nearly every name begins with."""
    if len(names) < _FEW:
        return frozenset()
    counted = Counter(word for words in names for word in set(words[:3]))
    often = (word for word, count in counted.items() if count >= _COMMON * len(names))
    return frozenset(word for word in often if not meanings_of(word))


def _families(chosen: Sequence[tuple[Token, tuple[str, ...]]]) -> frozenset[tuple[str, ...]]:
    """The names, without their last word, of rows of raw colors that differ by a number alone and are
    named after no part of an interface: a palette, with what else is called so, as ``success.base``."""
    counts = Counter(
        words[:-1]
        for token, words in chosen
        if token.tier == "raw" and words and words[-1].isdigit()
    )
    return frozenset(
        row
        for row, count in counts.items()
        if count > _FEW
        and not any(meanings_of(word) & (_PARTS | {"chart", "page"}) for word in row)
    )


def _rungs(
    chosen: Sequence[tuple[Token, tuple[str, ...]]], used: Collection[str]
) -> frozenset[tuple[str, ...]]:
    """The names, without their number, of rows of semantic colors that others refer to: a ladder that
    stands for another in every brand, as ``accent.1`` to ``accent.11``."""
    rows: dict[tuple[str, ...], list[str]] = {}
    for token, words in chosen:
        if token.tier != "raw" and words and words[-1].isdigit():
            rows.setdefault(words[:-1], []).append(token.key)
    return frozenset(
        row
        for row, keys in rows.items()
        if len(keys) >= _FEW and not set(keys).isdisjoint(used) and "chart" not in row
    )


def _is_step(words: tuple[str, ...], meanings: Sequence[frozenset[str]], *, is_used: bool) -> bool:
    """Whether a raw color is one of a row, by the number at the end of its name, or a color of the
    palette that others refer to: then its name says nothing of a use, or ``ink.3``."""
    numbered = bool(words) and words[-1].isdigit()
    if any("chart" in held for held in meanings):
        return False
    return (numbered and is_used) or ((numbered or is_used) and not any(meanings))
