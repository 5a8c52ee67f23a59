"""The document: one immutable value that holds a project's whole design state.

Keys are stable and handed in; names and paths may change under them. Every ordered part is
a tuple, because order is data.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from prism.model.imported import Layer, Source
from prism.model.values import BASE, Condition, Value

Tier = Literal["raw", "semantic", "component"]
Use = Literal["text", "large text", "control", "graphic", "decoration", "logotype", "inactive"]

#: The order of tiers in the sheet: what is mapped comes before what it is mapped to.
TIERS: tuple[Tier, ...] = ("semantic", "component", "raw")

SCALAR_TYPES = (
    "color",
    "dimension",
    "number",
    "duration",
    "fontFamily",
    "fontWeight",
    "cubicBezier",
    "strokeStyle",
    "string",
    "boolean",
    "piece",
)
COMPOSITE_TYPES = ("shadow", "border", "gradient", "typography", "transition")
TYPES = SCALAR_TYPES + COMPOSITE_TYPES


@dataclass(frozen=True, slots=True)
class Mode:
    """One variant along an axis. ``color_scheme`` is ``light``, ``dark`` or empty; ``direction`` that of the
    language it stands for, ``ltr``, ``rtl`` or empty; ``selectors`` are
    those that ask for the mode in a style sheet it came from."""

    key: str
    name: str
    description: str = ""
    color_scheme: str = ""
    selectors: tuple[str, ...] = ()
    direction: str = ""


@dataclass(frozen=True, slots=True)
class Follows:
    """A preference media feature and the mode for each of its values."""

    feature: str
    modes: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class Axis:
    """One independent direction of variation; ``default`` is a mode's key."""

    key: str
    name: str
    modes: tuple[Mode, ...]
    default: str
    description: str = ""
    follows: Follows | None = None

    def mode(self, key: str) -> Mode:
        """The mode with ``key``; KeyError where there is none."""
        for mode in self.modes:
            if mode.key == key:
                return mode
        raise KeyError(key)


@dataclass(frozen=True, slots=True)
class Group:
    """What a group of tokens says of itself. ``extends`` is the path of its parent group."""

    path: str
    description: str = ""
    type: str = ""
    extends: str = ""
    extensions: str = ""


@dataclass(frozen=True, slots=True)
class Token:
    """A named design decision.

    ``values`` maps conditions to values in order; without a base value the token is absent
    where no condition holds. ``export_names`` are pairs of format and name, ``extensions``
    is JSON text, ``deprecated`` is None or a sentence (possibly empty), ``extends_from`` the
    path of the group it was inherited from, ``role`` what a person says it is for and ``belongs_to``
    the key of the token it belongs to; empty: guessed.
    """

    key: str
    path: str
    type: str
    tier: Tier
    values: tuple[tuple[Condition, Value], ...] = ()
    description: str = ""
    private: bool = False
    uses: tuple[str, ...] = ()
    export_names: tuple[tuple[str, str], ...] = ()
    deprecated: str | None = None
    extensions: str = ""
    extends_from: str = ""
    role: str = ""
    belongs_to: str = ""

    def value(self, condition: Condition = BASE) -> Value | None:
        """The value stored for exactly this condition, or None."""
        for held, value in self.values:
            if held == condition:
                return value
        return None

    @property
    def group(self) -> str:
        """The path of the group the token lies in; empty at the top."""
        return self.path.removesuffix(".$root").rpartition(".")[0]

    @property
    def top(self) -> str:
        """The first segment of the path, which names the group it is listed in."""
        return self.path.split(".", 1)[0]

    @property
    def leaf(self) -> str:
        """The last segment of the path, as people read it."""
        return shown_path(self.path).rpartition(".")[2]

    @property
    def is_raw_color(self) -> bool:
        """Whether the token is one of the palette's colors."""
        return self.tier == "raw" and self.type == "color"

    def within(self, group: str) -> bool:
        """Whether the token lies in a group, however deep, or is its root."""
        return self.path == group or self.path.startswith(group + ".")


@dataclass(frozen=True, slots=True)
class Ramp:
    """One hue's ordered steps (token keys), the parameters that made them, steps moved by hand, and
    the token of the base color where that is none of the steps."""

    key: str
    name: str
    steps: tuple[str, ...] = ()
    purpose: str = ""
    parameters: tuple[tuple[str, str], ...] = ()
    moved: tuple[str, ...] = ()
    base: str = ""


@dataclass(frozen=True, slots=True)
class Purpose:
    """What a part of the palette is there for."""

    key: str
    name: str
    description: str = ""


@dataclass(frozen=True, slots=True)
class Scheme:
    """An ordered scheme of name parts; each part a name and its words."""

    key: str
    name: str
    parts: tuple[tuple[str, tuple[str, ...]], ...] = ()


@dataclass(frozen=True, slots=True)
class SavedTheme:
    """A named theme: one mode on every axis named."""

    key: str
    name: str
    picks: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True, slots=True)
class Pairing:
    """A foreground token on a stack of background tokens, top first; all by key.

    ``page`` is the token a translucent stack ends on. ``required`` is a contrast ratio, 0
    where the use is exempt; ``reason`` says why. ``waiver`` says why a failure is accepted,
    ``waived_by`` by whom, and ``waived_until`` up to which day, as ``2026-12-31``; empty: for good.
    """

    key: str
    foreground: str
    backgrounds: tuple[str, ...]
    use: Use = "text"
    required: float = 4.5
    reason: str = ""
    waiver: str = ""
    page: str = ""
    waived_by: str = ""
    waived_until: str = ""


@dataclass(frozen=True, slots=True)
class Rule:
    """What makes pairings by itself, of the tokens that are there and of those to come.

    ``by_role`` is the id of a rule that goes by what tokens are for; where it is empty, ``foreground``
    and ``background`` are patterns of paths, and ``use`` is what their pairings are used as.
    ``required`` is a contrast ratio; 0 takes what the use asks for.
    """

    key: str
    by_role: str = ""
    foreground: str = ""
    background: str = ""
    use: Use = "text"
    required: float = 0.0


@dataclass(frozen=True, slots=True)
class Word:
    """A word of the project's own, lower case and without accents, and what it means in a name."""

    key: str
    meaning: str


@dataclass(frozen=True, slots=True)
class TellingApart:
    """A set of tokens that must be told apart. ``besides`` says by what else they differ where they are
    used: an icon, a word, a shape; empty: by color alone."""

    key: str
    name: str
    tokens: tuple[str, ...] = ()
    besides: str = ""


@dataclass(frozen=True, slots=True)
class Mute:
    """A finding that is accepted: the id of its check, the tokens it is about by key, what else tells it
    apart, why it is accepted and by whom."""

    key: str
    check: str
    tokens: tuple[str, ...] = ()
    about: str = ""
    reason: str = ""
    by: str = ""


@dataclass(frozen=True, slots=True)
class Scene:
    """An interface that tokens are tried on; bindings are slot and token key."""

    key: str
    name: str
    markup: str = ""
    bindings: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True, slots=True)
class Page:
    """One page of the handbook, in Markdown."""

    key: str
    title: str
    body: str = ""


@dataclass(frozen=True, slots=True)
class Document:
    """Everything a project holds. ``gamut`` is ``srgb`` or ``display-p3``.

    ``version``, ``resolver_file`` and ``resolver_text`` (JSON with the members this product
    gives no meaning to) are what an imported resolver document said of itself.
    """

    name: str = ""
    description: str = ""
    gamut: str = "srgb"
    version: str = ""
    resolver_file: str = ""
    resolver_text: str = ""
    axes: tuple[Axis, ...] = ()
    groups: tuple[Group, ...] = ()
    tokens: tuple[Token, ...] = ()
    ramps: tuple[Ramp, ...] = ()
    purposes: tuple[Purpose, ...] = ()
    schemes: tuple[Scheme, ...] = ()
    themes: tuple[SavedTheme, ...] = ()
    pairings: tuple[Pairing, ...] = ()
    rules: tuple[Rule, ...] = ()
    words: tuple[Word, ...] = ()
    telling_apart: tuple[TellingApart, ...] = ()
    mutes: tuple[Mute, ...] = ()
    scenes: tuple[Scene, ...] = ()
    pages: tuple[Page, ...] = ()
    sources: tuple[Source, ...] = ()
    layers: tuple[Layer, ...] = ()
    _index: dict[str, dict[str, object]] = field(
        default_factory=dict, init=False, repr=False, compare=False, hash=False
    )

    def _by(self, what: str, attribute: str) -> dict[str, object]:
        name = f"{what}.{attribute}"
        if name not in self._index:
            self._index[name] = {getattr(part, attribute): part for part in getattr(self, what)}
        return self._index[name]

    def token_at(self, path: str) -> Token | None:
        """The token with this path; ``a.b`` also finds ``a.b.$root``."""
        by_path = self._by("tokens", "path")
        token = by_path.get(path) or by_path.get(f"{path}.$root")
        return token if isinstance(token, Token) else None

    def token(self, key: str) -> Token | None:
        """The token with this key, or None."""
        token = self._by("tokens", "key").get(key)
        return token if isinstance(token, Token) else None

    def axis(self, key: str) -> Axis | None:
        """The axis with this key, or None."""
        axis = self._by("axes", "key").get(key)
        return axis if isinstance(axis, Axis) else None

    def ramp(self, key: str) -> Ramp | None:
        """The ramp with this key, or None."""
        ramp = self._by("ramps", "key").get(key)
        return ramp if isinstance(ramp, Ramp) else None

    def pairing(self, key: str) -> Pairing | None:
        """The pairing with this key, or None."""
        pairing = self._by("pairings", "key").get(key)
        return pairing if isinstance(pairing, Pairing) else None


def shown_path(path: str) -> str:
    """The path as people read it: ``action.fill.$root`` is shown as ``action.fill``."""
    return path.removesuffix(".$root")
