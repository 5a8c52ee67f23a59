"""The command audit."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

import click

from prism.cli.group import file_argument, json_option, main, maps_option, theme_option
from prism.cli.printing import patiently, show, show_json, theme_names, theme_words
from prism.cli.reading import load, read_bytes, themes_for
from prism.edits.words import counted
from prism.errors import FormatError
from prism.formats import pairing_files
from prism.model.document import Document, Pairing, shown_path
from prism.resolution import contrast
from prism.resolution.contrast import Reading
from prism.resolution.current import resolver_of
from prism.roles import rules
from prism.roles.guess import guess
from prism.roles.rules import ByRule


@main.command()
@file_argument
@click.option("--pairings", "pairs", metavar="FILE", help="A JSON list of pairings.")
@theme_option
@maps_option
@json_option
@click.pass_context
def audit(
    ctx: click.Context,
    file: str,
    pairs: str | None,
    wanted: tuple[str, ...],
    maps: tuple[str, ...],
    as_json: bool,
) -> None:
    """Measure the contrast of every pairing in every theme.

    Where no pairings are given, rules make them from what each token is for; see the command roles.
    Exit with 1 where a pairing falls short, or a token of one has no value, and with 2 where there
    is nothing to judge.
    """
    document = load(file, maps)
    if pairs is not None:
        ((name, data),) = read_bytes(pairs).items()
        document = replace(document, pairings=pairing_files.read(data, name, document))
    document, made_by = _by_rule(document, file)
    resolver = resolver_of(document)
    readings = [
        (pairing, reading)
        for pairing in patiently(document.pairings, "Measuring")
        for reading in contrast.audit(resolver, [pairing], themes_for(resolver, wanted))
    ]
    if as_json:
        show_json(
            pairings=[_members(document, made_by, *reading) for reading in readings],
            summary=_summary([reading for _, reading in readings]),
        )
    else:
        rows = [_row(document, *reading) for reading in readings]
        show("", ("pairing", "theme", "ratio", "needs", ""), rows)
    if any(reading.fails or reading.missing for _, reading in readings):
        ctx.exit(1)


def _by_rule(document: Document, file: str) -> tuple[Document, dict[str, str]]:
    """The document with the pairings that its rules make, or where there are none those of all rules;
    and the rule of each by its key."""
    if document.pairings and not document.rules:
        return document, {}
    guesses = guess(document, resolver_of(document))
    made = rules.kept(document, guesses)
    if document.pairings or made:
        return rules.joined(document, made), _rule_names(document, made)
    made = rules.pairings(document, guesses)
    if not made:
        raise FormatError(
            "There are no pairings, and the names of the colors do not say what stands on what.",
            place=file,
            fix="Name pairings with --pairings.",
        )
    count = counted(len(made), "pairing")
    click.echo(f"{count} by rule, as the file names none.", err=True)
    if unknown := rules.unjudged(document, guesses):
        paths = ", ".join(unknown)
        click.echo(f"Not judged, as what they are for is not known: {paths}.", err=True)
    return rules.joined(document, made), _rule_names(document, made)


def _rule_names(document: Document, made: Sequence[ByRule]) -> dict[str, str]:
    """The id of the rule of each pairing by its key; of a pattern its words."""
    words = {rule.key: rule.by_role or rules.sentence(rule) for rule in document.rules}
    return {by_rule.pairing.key: words.get(by_rule.rule, by_rule.rule) for by_rule in made}


def _members(
    document: Document, made_by: Mapping[str, str], pairing: Pairing, reading: Reading
) -> dict[str, Any]:
    def path(key: str) -> str:
        token = document.token(key)
        return shown_path(token.path) if token else key

    return {
        "key": pairing.key,
        "pairing": contrast.summary(document, pairing),
        "foreground": path(pairing.foreground),
        "backgrounds": [path(key) for key in pairing.backgrounds],
        "use": pairing.use,
        "rule": made_by.get(pairing.key),
        "colors": {
            "foreground": reading.foreground or None,
            "background": reading.background or None,
        },
        "theme": theme_names(document, reading.theme),
        "ratio": None if reading.missing else reading.ratio,
        "shown": reading.shown,
        "required": reading.required,
        "passes": reading.passes,
        "missing": reading.missing or None,
    }


def _summary(readings: Sequence[Reading]) -> dict[str, int]:
    """How many readings there are of each kind."""
    missing = sum(bool(reading.missing) for reading in readings)
    failing = sum(reading.fails for reading in readings)
    passing = len(readings) - missing - failing
    return {"readings": len(readings), "passing": passing, "failing": failing, "missing": missing}


def _row(document: Document, pairing: Pairing, reading: Reading) -> tuple[str, ...]:
    return (
        contrast.summary(document, pairing),
        theme_words(document, reading.theme),
        reading.shown,
        f"{reading.required:g}",
        reading.missing or ("fails" if reading.fails else "passes"),
    )
