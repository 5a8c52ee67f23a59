"""The commands propose and fix: colors moved so that every pairing passes."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import Any

import click

from prism.changes.axes import add_axis
from prism.cli.group import file_argument, json_option, main, maps_option, unknown_option
from prism.cli.printing import show, show_json, tell_unplaced, theme_words, write_files
from prism.cli.reading import load
from prism.commands.names import counted
from prism.contrast import fix_all
from prism.contrast.presumed import among
from prism.contrast.unplaced import unplaced_of
from prism.errors import FormatError, PrismError
from prism.expressions.values import value_text
from prism.formats import files
from prism.model.document import Axis, Document, Mode, Pairing, Token, shown_path
from prism.model.names import condition_words, named_picks
from prism.model.values import Condition, Value
from prism.modes.intents import BY_ID, INTENTS
from prism.modes.review import Asked, review
from prism.resolution import contrast
from prism.resolution.current import resolver_of
from prism.roles import rules
from prism.roles.guess import guess
from prism.solver import Contradiction, Short, Solved, Wanted, falling_short

_NOTHING = "The names of the colors do not say what stands on what, so nothing can be judged."
_KEY = "proposed"
#: Intents beside a counterpart, by their ids.
_INTENTS = tuple(intent.id for intent in INTENTS[1:])
_folder_option = click.option(
    "-o", "folder", required=True, type=click.Path(file_okay=False, path_type=Path),
    help="Where the Design Tokens files go.",
)  # fmt: skip


@main.command()
@file_argument
@click.option(
    "--as",
    "kind",
    required=True,
    type=click.Choice(["dark", "light", *_INTENTS]),
    help="What the mode is to be.",
)
@click.option(
    "--hue",
    "hues",
    multiple=True,
    metavar="RAMP=RAMP",
    help="With --as hues: a ramp by name, and the one that takes its place.",
)
@click.option("--times", "factor", type=float, default=1.0, help="With --as scaled: the factor.")
@click.option("--axis", "axis_name", help="The axis that gets the mode; appearance if left out.")
@click.option("--from", "source_name", help="The mode it is made from; the default if left out.")
@click.option("--name", help="What the mode is called; dark or light if left out.")
@click.option(
    "--solve/--no-solve", "solves", default=True, help="Whether values are moved until all pass."
)
@click.option(
    "--hold", "holds", multiple=True, metavar="PATH=VALUE",
    help="A value that stays in the new mode; PATH= keeps that of the mode it is made from.",
)  # fmt: skip
@_folder_option
@maps_option
@unknown_option
@json_option
@click.pass_context
def propose(
    ctx: click.Context,
    file: str,
    kind: str,
    hues: tuple[str, ...],
    factor: float,
    axis_name: str | None,
    source_name: str | None,
    name: str | None,
    solves: bool,
    holds: tuple[str, ...],
    folder: Path,
    maps: tuple[str, ...],
    allowed: int,
    as_json: bool,
) -> None:
    """Propose a mode of FILE, in which every pairing passes: a dark or light counterpart of another, or one
    with more or less contrast, quieter colors, other hues or other measures.

    A file without the axis gets it; its values become the other mode, called as --from says. Exit
    with 1 where a rule still fails, and with 2 where there is nothing to judge, or where more colors than
    --allow-unknown are in no known pairing. What was made is written all the same.
    """
    read = load(file, maps)
    intent = BY_ID.get(kind, INTENTS[0])
    scheme = kind if intent is INTENTS[0] else intent.scheme
    document, axis, source = _begun(read, axis_name, source_name, scheme or "dark")
    mode = Mode(_KEY, name or kind, color_scheme=scheme or _scheme_of(document, axis, source))
    decided = tuple(_decided(document, text) for text in holds)
    ramps = tuple(_ramps(document, text) for text in hues)
    made = review(document, Asked(axis, source, mode, decided, solves, intent.id, ramps, factor))
    if not made.pairs:
        raise FormatError(_NOTHING, place=file, fix="See what the command roles makes of them.")
    guesses = guess(document, resolver_of(document))
    wanted = Wanted(made.pairs, guesses, {axis: source})
    left = unplaced_of(document, guesses, made.pairs)
    before = tuple(falling_short(document, wanted))
    settings = [(k, at, v) for k, at, v in made.settings(axis, _KEY) if v is not None]
    _report(ctx, made.document, settings, made.pairs, before, made.solved, folder, as_json, left)
    _end(ctx, made.solved, left, allowed)


@main.command()
@file_argument
@click.option("--new-colors", is_flag=True, help="Allow colors between the steps of the palette.")
@click.option("--hold", "holds", multiple=True, metavar="PATH", help="A token that stays as it is.")
@_folder_option
@maps_option
@unknown_option
@json_option
@click.pass_context
def fix(
    ctx: click.Context,
    file: str,
    new_colors: bool,
    holds: tuple[str, ...],
    folder: Path,
    maps: tuple[str, ...],
    allowed: int,
    as_json: bool,
) -> None:
    """Move the colors of FILE, as few and as little as will do, until every pairing passes in every theme.

    No pairing that passed falls short. Exit with 1 where one still does, and with 2 where there is
    nothing to judge, or where more colors than --allow-unknown are in no known pairing. What was made is
    written all the same.
    """
    document = load(file, maps)
    guesses = guess(document, resolver_of(document))
    pairs = rules.demanded(document, guesses)
    if not pairs:
        raise FormatError(_NOTHING, place=file, fix="See what the command roles makes of them.")
    held = frozenset(_token(document, path) for path in holds)
    wanted = Wanted(pairs, guesses, held=held, new_colors=new_colors)
    made = fix_all.fix(document, wanted)
    settings = [(move.place.token, move.place.condition, move.after) for move in made.moves]
    solved = fix_all.as_solved(made)
    left = unplaced_of(document, guesses, pairs)
    _report(ctx, made.document, settings, pairs, made.before, solved, folder, as_json, left)
    _end(ctx, solved, left, allowed)


def _end(ctx: click.Context, solved: Solved, left: Sequence[Token], allowed: int) -> None:
    """End with what came of it."""
    if solved.short:
        ctx.exit(1)
    if len(left) > allowed:
        ctx.exit(2)


def _report(
    ctx: click.Context,
    document: Document,
    settings: Sequence[tuple[str, Condition, Value]],
    pairs: Sequence[Pairing],
    before: Sequence[Short],
    solved: Solved,
    folder: Path,
    as_json: bool,
    left: Sequence[Token],
) -> None:
    """Write the files and say what was moved and what falls short."""
    theme = resolver_of(document).default_theme
    written, losses = files.write(document, "design-tokens", theme)
    if as_json:
        _show_json(document, settings, pairs, before, solved, left)
    else:
        if solved.moves:
            rows = [_moved(document, solved, number) for number in range(len(solved.moves))]
            show("", ("moved", "holds for", "from", "to", "why"), rows)
        if solved.short:
            head = ("falls short", "theme", "ratio", "needs", "why")
            show("", head, [_row(document, short, solved.contradictions) for short in solved.short])
    write_files(folder, written, err=as_json)
    click.echo(
        f"{len({key for key, *_ in settings})} colors set for {_counted(document, pairs)}; "
        f"{len(before)} readings fell short before, {len(solved.short)} fall short now.",
        err=True,
    )
    tell_unplaced(left)
    for line in losses:
        click.echo(line, err=True)


def _counted(document: Document, pairs: Sequence[Pairing]) -> str:
    """``67 known pairings``, or ``60 known pairings and 7 presumed``."""
    doubted = among(document, pairs, guess(document, resolver_of(document)))
    words = f"{counted(len(pairs) - doubted, 'known pairing')}"
    return f"{words} and {doubted} presumed" if doubted else words


def _moved(document: Document, solved: Solved, number: int) -> tuple[str, ...]:
    move = solved.moves[number]
    where = condition_words(document, move.place.condition)
    texts = (value_text(value).strip("{}") for value in (move.before, move.after))
    return _path(document, move.place.token), where, *texts, move.why


def _show_json(
    document: Document,
    settings: Iterable[tuple[str, Condition, Value]],
    pairs: Sequence[Pairing],
    before: Sequence[Short],
    solved: Solved,
    left: Sequence[Token],
) -> None:
    values: dict[str, list[dict[str, Any]]] = {}
    for key, condition, value in settings:
        stated = {"when": named_picks(document, condition), "value": value_text(value)}
        values.setdefault(_path(document, key), []).append(stated)
    show_json(
        values=values,
        judged=len(pairs),
        unjudged=[shown_path(token.path) for token in left],
        before=[_members(document, short, ()) for short in before],
        after=[_members(document, short, solved.contradictions) for short in solved.short],
        contradictions=[
            {
                "pairings": [
                    contrast.summary(document, pairing) for pairing in contradiction.pairings
                ],
                "free": list(contradiction.free),
            }
            for contradiction in solved.contradictions
        ],
        proven=solved.proven,
    )


def _path(document: Document, key: str) -> str:
    token = document.token(key)
    return shown_path(token.path) if token else key


def _members(
    document: Document, short: Short, contradictions: Sequence[Contradiction]
) -> dict[str, Any]:
    reading = short.reading
    return {
        "foreground": _path(document, short.pairing.foreground),
        "background": _path(document, short.pairing.backgrounds[0]),
        "colors": {"foreground": reading.foreground, "background": reading.background},
        "ratio": reading.ratio,
        "required": reading.required,
        "why": _why(document, short, contradictions) or None,
    }


def _row(
    document: Document, short: Short, contradictions: Sequence[Contradiction]
) -> tuple[str, ...]:
    return (
        contrast.summary(document, short.pairing),
        theme_words(document, short.reading.theme),
        short.reading.shown,
        f"{short.reading.required:g}",
        _why(document, short, contradictions),
    )


def _why(document: Document, short: Short, contradictions: Sequence[Contradiction]) -> str:
    """With what a pairing cannot pass together, and what would free it."""
    for contradiction in contradictions:
        if short.pairing in contradiction.pairings:
            others = [p for p in contradiction.pairings if p != short.pairing]
            words = ", ".join(contrast.summary(document, pairing) for pairing in others)
            start = f"cannot pass together with {words}" if words else "no step passes"
            return (
                f"{start}; it would with {', or '.join(contradiction.free)}"
                if contradiction.free
                else start
            )
    return ""


def _decided(document: Document, text: str) -> tuple[str, str | None]:
    """What ``PATH=VALUE`` holds; None for the value that is there."""
    path, equals, value = text.partition("=")
    if not equals:
        raise PrismError(f"“{text}” names no value.", fix="Write PATH=VALUE, or PATH= alone.")
    return _token(document, path), value.strip() or None


def _scheme_of(document: Document, axis: str, source: str) -> str:
    """The color scheme of a mode."""
    owner = document.axis(axis)
    assert owner is not None
    return next(mode.color_scheme for mode in owner.modes if mode.key == source)


def _ramps(document: Document, text: str) -> tuple[str, str]:
    """The keys of the two ramps that ``RAMP=RAMP`` names."""
    known = {ramp.name: ramp.key for ramp in document.ramps if ramp.name}
    names = [name.strip() for name in text.split("=")]
    unknown = [name for name in names if name not in known]
    if len(names) != 2 or unknown:
        what = f"There is no ramp “{unknown[0]}”." if unknown else f"“{text}” names no two ramps."
        raise PrismError(what, fix=f"Ramps: {', '.join(known)}." if known else "FILE has no ramps.")
    return known[names[0]], known[names[1]]


def _token(document: Document, path: str) -> str:
    token = document.token_at(path.strip())
    if token is None:
        raise PrismError(f"There is no token “{path.strip()}”.")
    return token.key


def _begun(
    document: Document, axis_name: str | None, source_name: str | None, scheme: str
) -> tuple[Document, str, str]:
    """The document with the axis, and the keys of that and of the mode to start from. Without the axis
    it gets one whose only mode is what is there."""
    wanted = axis_name or "appearance"
    axis = next((axis for axis in document.axes if axis.name == wanted), None)
    if axis is None:
        other = "light" if scheme == "dark" else "dark"
        first = Mode(f"{_KEY}-from", source_name or other, color_scheme=other)
        axis = Axis(f"{_KEY}-axis", wanted, (first,), first.key)
        return add_axis(document, axis), axis.key, first.key
    if source_name is None:
        return document, axis.key, axis.default
    for mode in axis.modes:
        if mode.name == source_name:
            return document, axis.key, mode.key
    names = ", ".join(mode.name for mode in axis.modes)
    raise PrismError(f"There is no mode “{source_name}”.", fix=f"Modes of {axis.name}: {names}.")
