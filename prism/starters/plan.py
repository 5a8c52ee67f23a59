"""What a new project is to hold: the colors it begins with, and what is made of them."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from prism.color import space
from prism.errors import EditError, PrismError
from prism.model.document import Document
from prism.palette import imports, pictures, ramps, text_colors
from prism.palette.ramp_edits import NewKey
from prism.roles.lexicon import meanings_of, words_of

#: More colors than this make no scheme.
MOST_COLORS = 12
MOST_NAME = 40
STATUSES = ("success", "warning", "error", "information")
#: Base colors of the four statuses where none are given. Hues are common practice, no source.
STATUS_COLORS = {
    "success": "#1d8448", "warning": "#9a6b00", "error": "#c8383a", "information": "#2b6cb8",
}  # fmt: skip
#: A color of less OKLCH chroma is a neutral.
NEUTRAL_CHROMA = 0.03


@dataclass(frozen=True, slots=True)
class NamedColor:
    """A color to begin with: its name, and its text in CSS."""

    name: str
    text: str

    @property
    def color(self) -> space.Color:
        """The color as a screen of sRGB shows it, opaque. Raises ``ExpressionError``."""
        return replace(space.fit(space.parse_function(self.text), "srgb"), alpha=1.0)

    @property
    def base(self) -> str:
        """The base color of its ramp."""
        parsed = space.parse_function(self.text)
        opaque = parsed.alpha >= 1 and not parsed.missing_alpha
        return (
            self.text if opaque and space.in_gamut(parsed, "srgb") else space.hex_text(self.color)
        )

    @property
    def hex(self) -> str:
        """The color as it is shown; empty where the text is none."""
        try:
            return space.hex_text(self.color)
        except PrismError:
            return ""


#: Names of hues, each up to an OKLCH hue in degrees. Common practice, no source.
_HUES = (
    (10, "pink"), (34, "red"), (70, "orange"), (115, "yellow"), (165, "green"), (220, "teal"),
    (275, "blue"), (320, "violet"), (360, "pink"),
)  # fmt: skip


def hue_word(color: space.Color) -> str:
    """What a color without a name is called: after its hue, or gray."""
    _, chroma, hue = ramps.oklch(color)
    if chroma < NEUTRAL_CHROMA:
        return "gray"
    return next(word for most, word in _HUES if hue % 360 <= most)


#: What can be left out of a new project, and how it is called.
PARTS = (
    ("dark", "dark mode"),
    ("statuses", "status colors"),
    ("overlays", "overlays"),
    ("measures", "spaces, radii, type and shadows"),
)


@dataclass(frozen=True, slots=True)
class Plan:
    """All that decides a new project.

    ``colors`` are the brand's or the brands', the first one leading; ``neutral`` and ``statuses`` what
    was said of those, by status; ``without`` names the parts that are left out.
    """

    name: str = ""
    colors: tuple[NamedColor, ...] = ()
    start: str = "one-product"
    naming: str = "plain"
    prefix: str = ""
    neutral: NamedColor | None = None
    statuses: tuple[tuple[str, NamedColor], ...] = ()
    without: frozenset[str] = frozenset()

    def has(self, part: str) -> bool:
        """Whether a part is in it."""
        return part not in self.without


def sorted_out(colors: Sequence[NamedColor]) -> Plan:
    """A plan in which each color has its place: a gray is the neutral, one that is named after a
    status is that status, and the others are the brand's. White and black are in every plan, and are
    left out beside other colors. Names are made where there are none."""
    plan = Plan()
    brands: list[NamedColor] = []
    statuses: dict[str, NamedColor] = {}
    grays = [color for color in colors if ramps.oklch(color.color)[1] < NEUTRAL_CHROMA]
    inks = [color for color in grays if not _is_end(color)]
    for color in colors:
        meanings = {meaning for word in words_of(color.name) for meaning in meanings_of(word)}
        status = next((status for status in STATUSES if status in meanings), "")
        if status and status not in statuses:
            statuses[status] = replace(color, name=status)
        elif color in inks[:1] and len(grays) < len(colors):
            plan = replace(plan, neutral=replace(color, name=color.name or "neutral"))
        elif not (_is_end(color) and len(grays) < len(colors)):
            brands.append(color)
    return replace(plan, colors=named(brands), statuses=tuple(statuses.items()))


def _is_end(color: NamedColor) -> bool:
    return space.hex_text(color.color) in ("#ffffff", "#000000")


def named(colors: Iterable[NamedColor]) -> tuple[NamedColor, ...]:
    """Colors with a name each, no two alike."""
    taken: set[str] = set()
    result = []
    for color in colors:
        wanted = _plain(color.name) or hue_word(color.color)
        name, number = wanted, 2
        while name.lower() in taken:
            name, number = f"{wanted} {number}", number + 1
        taken.add(name.lower())
        result.append(replace(color, name=name))
    return tuple(result)


def _plain(name: str) -> str:
    """A name that can be a segment of a path."""
    return " ".join(re.sub(r"[.{}]", " ", name).strip("$ ").split())[:MOST_NAME].strip()


def read_colors(text: str) -> tuple[NamedColor, ...]:
    """The colors of any text, in its order. Raises ``FormatError`` where there are none, and
    ``EditError`` for more than anybody begins with."""
    return named(_few([NamedColor(color.name, color.text) for color in text_colors.find(text)]))


def _few(colors: Sequence[NamedColor]) -> Sequence[NamedColor]:
    if len(colors) > MOST_COLORS:
        raise EditError(
            f"These are {len(colors)} colors; a scheme begins with at most {MOST_COLORS}.",
            fix="Choose Nothing as a starting point, and import them in the project.",
        )
    return colors


def from_picture(data: bytes, file: str) -> tuple[NamedColor, ...]:
    """The most telling colors of a picture, grays last. Raises ``PrismError`` for what is none."""
    seen = [NamedColor("", space.hex_text(c.color)) for c in pictures.read(data, file, 5).clusters]
    return named(sorted(seen, key=lambda color: ramps.oklch(color.color)[1] < NEUTRAL_CHROMA))


#: First bytes of the pictures that are read: PNG, JPEG, GIF, WebP, BMP and TIFF.
_PICTURES = (b"\x89PNG", b"\xff\xd8\xff", b"GIF8", b"RIFF", b"BM", b"II*\0", b"MM\0*")


def read_file(data: bytes, name: str, new_key: NewKey) -> tuple[NamedColor, ...]:
    """The colors of a picture, or of a palette, a style sheet, Design Tokens or any text. Raises
    ``PrismError`` for a file without colors."""
    if data.startswith(_PICTURES):
        return from_picture(data, name)
    colors = imports.from_file(Document(), data, name, new_key)
    return named(_few([NamedColor(color.path, color.text) for color in colors]))


def check(colors: Iterable[NamedColor]) -> None:
    """Raise ``EditError``, naming its place, for what is no color."""
    for color in colors:
        try:
            space.parse_function(color.text)
        except PrismError as error:
            raise EditError(
                error.sentence, place=color.name or "Colors", fix="Write one such as #236b53."
            ) from None
