"""Importing colors into a palette: which are new, which clash, and where each color goes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import count
from typing import Literal

from prism.changes.references import check_path
from prism.changes.structure import add_tokens
from prism.changes.values import set_value
from prism.color import space
from prism.errors import EditError, PrismError
from prism.expressions.typed_input import reference_to
from prism.formats import duplicates, files, palettes
from prism.formats.recognition import kind_of
from prism.model.document import Document, Token, shown_path
from prism.model.values import BASE, Condition, Expression
from prism.palette import purposes, ramp_edits, text_colors
from prism.palette.ramp_edits import NewKey
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver

Clash = Literal["", "same", "other", "repeated", "numbered"]
#: What may be done with a color whose name is taken.
ACTIONS = ("add", "replace", "keep")


@dataclass(frozen=True, slots=True)
class Candidate:
    """A color that came: the path it asks for, its text, and where it stood.

    ``clash`` says that the path is taken by the ``same`` color or an ``other``; or that it is that of a
    color above, which is the same (``repeated``), or another, so that this one is ``numbered``.
    ``there`` is the text of what is there, or the line of the color above.
    """

    path: str
    text: str
    color: space.Color
    line: int
    clash: Clash
    there: str = ""


@dataclass(frozen=True, slots=True)
class Choice:
    """What is to be done with one color that came."""

    path: str
    text: str
    action: str = "add"


DestinationKind = Literal["color", "ramp", "token"]
DESTINATIONS: tuple[DestinationKind, ...] = ("color", "ramp", "token")


@dataclass(frozen=True, slots=True)
class Destination:
    """Where a color of a picture goes: ``color`` (a raw color named ``target``), ``ramp`` (the base
    color of a new ramp of that name) or ``token`` (the token with the path ``target`` refers to
    it)."""

    color: space.Color
    kind: DestinationKind
    target: str


def destination_for(color: space.Color, kind: str, target: str) -> Destination:
    """Where a color of a picture goes, by the name of the kind. Raises ``EditError`` for another."""
    known = next((destination for destination in DESTINATIONS if destination == kind), None)
    if known is None:
        raise EditError(f"“{kind[:20]}” is not something a color can become.")
    return Destination(color, known, target)


def from_text(document: Document, text: str) -> tuple[Candidate, ...]:
    """The colors of any text, against a document."""
    colors = [(color.name, color.text, color.color, color.line) for color in text_colors.find(text)]
    return _against(document, colors)


def again(document: Document, sent: Sequence[tuple[str, str]]) -> tuple[Candidate, ...]:
    """Candidates from paths and texts that were looked at before; what is no color is left out."""
    colors = []
    for number, (path, text) in enumerate(sent, 1):
        try:
            colors.append((path, text, space.parse_function(text), number))
        except PrismError:
            continue
    return _against(document, colors)


def from_file(document: Document, data: bytes, name: str, new_key: NewKey) -> tuple[Candidate, ...]:
    """The colors of a file: a palette, Design Tokens, or any text, against a document.

    Of token files the colors of the default theme are taken, all tiers, by path.
    """
    kind = kind_of(name, data)
    if kind in ("gpl", "svg", "tokens") or name.lower().endswith(".css"):
        read = files.read({name: data}, new_key).document
        swatches = palettes.colors(read, Resolver(read).default_theme)
        if not swatches:
            raise PrismError("The file contains no color.", place=name)
        plain = [
            (shown_path(path), space.css_text(color), color, number)
            for number, (path, color) in enumerate(swatches, 1)
        ]
        return _against(document, plain)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise PrismError(
            "The file is not text.",
            place=f"{name}, byte {error.start}",
            fix="Import pictures under Pictures.",
        ) from None
    try:
        return from_text(document, text)
    except PrismError as error:
        raise error.at(name) from None


#: What a pasted text is called, by its format.
_ENDINGS = {
    "tokens": ".tokens.json", "json": ".json", "css": ".css", "gpl": ".gpl", "svg": ".svg",
    "csv": ".csv",
}  # fmt: skip


def document_of_text(text: str, new_key: NewKey, choice: duplicates.Choice = "") -> files.ReadFiles:
    """The document of a pasted text in any format that files have; of any other text its colors, as
    raw ones. Raises ``PrismError`` where it holds neither."""
    data = text.encode()
    kind = kind_of("pasted", data)
    try:
        read = files.read({f"pasted{_ENDINGS[kind]}": data}, new_key, choice=choice)
        if kind != "csv" or any(token.type == "color" for token in read.document.tokens):
            return read
    except duplicates.DuplicateError:
        raise
    except PrismError:
        if kind != "csv":
            raise
    colors = text_colors.find(text)
    named: dict[str, str] = {}
    for number, color in enumerate(colors, 1):
        name = color.name or f"color {number}"
        while name in named:
            name = f"{name} {number}"
        named[name] = color.text
    tokens = [ramp_edits.step_token(new_key(), name, value) for name, value in named.items()]
    return files.ReadFiles(add_tokens(Document(name="pasted"), tokens), ())


def _against(
    document: Document, colors: Sequence[tuple[str, str, space.Color, int]]
) -> tuple[Candidate, ...]:
    paths = [name or space.hex_text(color)[1:] for name, _, color, _ in colors]
    resolver = resolver_of(document)
    above: dict[str, tuple[space.Color, int]] = {}
    taken = {*paths, *(shown_path(token.path) for token in document.tokens)}
    made = []
    for path, (_, text, color, line) in zip(paths, colors, strict=True):
        token = document.token_at(path)
        clash: Clash = ""
        there = ""
        if path in above:
            first, first_line = above[path]
            repeated = space.rgba8(first) == space.rgba8(color)
            clash, there = "repeated" if repeated else "numbered", str(first_line)
            if not repeated:
                path = _numbered(path, taken)
                taken.add(path)
        elif token is not None:
            answer = resolver.resolve(token.key, resolver.default_theme)
            same = answer.color is not None and space.rgba8(answer.color) == space.rgba8(color)
            clash, there = "same" if same else "other", answer.hex or answer.css
        above.setdefault(path, (color, line))
        made.append(Candidate(path, text, color, line, clash, there))
    return tuple(made)


def _numbered(path: str, taken: set[str]) -> str:
    """The first of ``path-2``, ``path-3``, … that is not taken."""
    return next(new for number in count(2) if (new := f"{path}-{number}") not in taken)


def place(
    document: Document,
    choices: Sequence[Choice],
    new_key: NewKey,
    *,
    group: str = "",
    purpose: str = "",
) -> Document:
    """Put the chosen colors into the palette, in their order, names as they are.

    ``group`` is the prefix of every path, ``purpose`` given to the groups they come into. Refused
    where a name is taken and nobody said whether to replace or to keep.
    """
    changed = document
    fresh: list[Token] = []
    for choice in choices:
        path = f"{group}.{choice.path}" if group else choice.path
        check_path(path)
        there = changed.token_at(path)
        _refuse(choice, path, there, fresh)
        if there is not None and choice.action == "replace":
            if there.type != "color":
                raise EditError(f"“{path}” is not a color.", fix="Choose another name.")
            changed = set_value(changed, there.key, BASE, Expression(choice.text))
        elif there is None:
            fresh.append(ramp_edits.step_token(new_key(), path, choice.text))
    if fresh:
        changed = add_tokens(changed, fresh, after=ramp_edits.last_raw_color(changed))
    if purpose:
        for name in dict.fromkeys(token.group for token in fresh):
            changed = purposes.assign(changed, name, purpose, new_key)
    return changed


def _refuse(choice: Choice, path: str, there: Token | None, fresh: Sequence[Token]) -> None:
    """Raise ``EditError`` where a color cannot be put under a path."""
    if choice.action not in ACTIONS:
        action = choice.action[:20]
        raise EditError(f"“{action}” is not something to do with a color.", place=path)
    if there is not None and choice.action == "add":
        raise EditError(f"“{path}” already exists.", fix="Replace it, or choose another name.")
    if any(shown_path(token.path) == path for token in fresh):
        raise EditError(f"“{path}” is a duplicate.", fix="Give one of the two another name.")


def use(
    document: Document, uses: Sequence[Destination], condition: Condition, new_key: NewKey
) -> Document:
    """Give each color of a picture its place.

    A token takes the color as a new raw color under ``condition``: in the modes that it names, and nowhere
    else; the empty one is where no other condition holds.
    """
    changed = document
    for use in uses:
        text = space.css_text(use.color)
        if use.kind == "ramp":
            changed = ramp_edits.add_ramp(changed, use.target, {"seed": text}, new_key)
            continue
        if use.kind == "color":
            changed = place(changed, [Choice(use.target, text)], new_key)
            continue
        target = changed.token_at(use.target)
        if target is None or target.type != "color":
            raise EditError(
                f"There is no color token “{use.target}”.", fix="Choose one from the list."
            )
        name = f"picture.{text.lstrip('#')}"
        changed, raw = ramp_edits.raw_color(changed, text, name, new_key)
        changed = set_value(changed, target.key, condition, reference_to(changed, raw))
    return changed
