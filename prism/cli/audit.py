"""The command audit."""

from __future__ import annotations

import datetime
import posixpath
from collections.abc import Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

import click

from prism import __version__
from prism.analysis import Analysis
from prism.check import Finding, Fix
from prism.cli.group import (
    file_argument,
    json_option,
    main,
    maps_option,
    theme_option,
    unknown_option,
)
from prism.cli.printing import patiently, show, show_json, tell_unplaced, theme_names, theme_words
from prism.cli.reading import folder_of, load, read_bytes, skipped, themes_for
from prism.commands.names import counted
from prism.contrast import unplaced
from prism.contrast.presumed import presumed
from prism.contrast.waiver_commands import read_day
from prism.errors import FormatError
from prism.formats import pairing_files
from prism.model.document import Document, Pairing, Rule, shown_path
from prism.reports import files
from prism.reports.places import places
from prism.reports.report import SEVERITIES, Report, report
from prism.reports.sarif import as_sarif
from prism.resolution import contrast
from prism.resolution.contrast import Reading
from prism.resolution.current import resolver_of
from prism.roles import rules


def _with_pairings(document: Document, pairs: str | None) -> Document:
    """The document with the pairings of a file, where one is named."""
    if pairs is None:
        return document
    ((name, data),) = read_bytes(pairs).items()
    return replace(document, pairings=pairing_files.read(data, name, document))


def _known(baseline: str | None) -> frozenset[str] | None:
    """The ids that an earlier report lists, where one is named."""
    if baseline is None:
        return None
    ((name, data),) = read_bytes(baseline).items()
    return files.known_ids(data, name)


@main.command()
@file_argument
@click.option("--pairings", "pairs", metavar="FILE", help="A JSON list of pairings.")
@click.option(
    "--format",
    "form",
    type=click.Choice(("text", "json", "csv", "sarif")),
    default="text",
    help="How findings are written; text adds every reading.",
)
@click.option(
    "--fail-on",
    type=click.Choice((*SEVERITIES, "never")),
    default="error",
    show_default=True,
    help="The least severity that makes the exit code 1.",
)
@click.option(
    "--baseline", metavar="FILE", help="A JSON report; what it lists does not count as failing."
)
@click.option("--today", metavar="DATE", help="The day by which waivers are judged, as 2026-12-31.")
@theme_option
@maps_option
@unknown_option
@json_option
@click.pass_context
def audit(
    ctx: click.Context,
    file: str,
    pairs: str | None,
    form: str,
    fail_on: str,
    baseline: str | None,
    today: str | None,
    wanted: tuple[str, ...],
    maps: tuple[str, ...],
    allowed: int,
    as_json: bool,
) -> None:
    """Run every check: contrast of every pairing in every theme, balance, vision, coverage, hygiene.

    Where no pairings are given, rules make them from what each token is for; see the command roles.
    Exit with 1 where something is found that is as bad as --fail-on, with 2 where no pairing can be
    judged, or where more colors than --allow-unknown are in no known pairing, so that nobody judged them.
    """
    day = read_day(today or datetime.date.today().isoformat())
    analysis = _judged(_with_pairings(load(file, maps), pairs), file)
    document, made_by = analysis.paired, _rule_names(analysis)
    made = report(analysis, day, _known(baseline), _broken())
    left = tell_unplaced(analysis.once(unplaced.unplaced))
    readings = _readings(document, wanted) if form == "text" or wanted else []
    if as_json:
        show_json(
            pairings=[_members(analysis, made_by, *reading) for reading in readings],
            summary=_summary([reading for _, reading in readings]),
            unjudged=[shown_path(token.path) for token in left],
            **files.plain(made),
        )
    elif form == "text":
        rows = [_row(document, *reading) for reading in readings]
        show("", ("pairing", "theme", "ratio", "needs", ""), rows)
        _show_findings(made)
    else:
        click.echo(_written(made, form, document, file), nl=False)
    short = bool(wanted) and any(reading.fails or reading.missing for _, reading in readings)
    if fail_on != "never" and (short or _fails(made, fail_on, baseline is not None, bool(wanted))):
        ctx.exit(1)
    if fail_on != "never" and len(left) > allowed:
        ctx.exit(2)


def _broken() -> list[Finding]:
    """A finding for each declaration of a style sheet that refers in a circle or to nothing, and so is no token."""
    return [
        Finding(
            "broken",
            f"{declaration.name} in {declaration.selector}, line {declaration.line}, {declaration.reason}.",
            severity="error",
            fixes=(Fix("Let it refer to a property that is declared."),),
            about=f"{declaration.name} {declaration.line}",
        )
        for declaration in skipped()
        if declaration.is_broken
    ]


def _readings(document: Document, wanted: Sequence[str]) -> list[tuple[Pairing, Reading]]:
    """Every pairing in the themes that are wanted, all where none is named."""
    resolver = resolver_of(document)
    return [
        (pairing, reading)
        for pairing in patiently(document.pairings, "Measuring")
        for reading in contrast.audit(resolver, [pairing], themes_for(resolver, wanted))
    ]


def _show_findings(made: Report) -> None:
    """What was found, what was accepted, and over what each check looked."""
    show(
        "Findings",
        ("severity", "check", "what", "themes", ""),
        [
            (
                *(item.finding.severity, item.finding.check, item.finding.what),
                str(item.finding.themes or ""),
                "new" if item.is_new else "" if item.is_open else "accepted",
            )
            for item in (*made.open, *made.accepted)
        ],
    )
    show("Checks", ("check", "found"), [(glance.id, glance.words) for glance in made.glances])


def _written(made: Report, form: str, document: Document, file: str) -> str:
    if form == "json":
        return files.as_json(made)
    if form == "csv":
        return files.as_csv(made)
    # Standard input was read to its end, and has no lines that could be named.
    sources = read_bytes(file) if file != "-" else {}
    folder = folder_of(file) if file != "-" else ""
    found = {
        path: replace(place, file=_seen_from_here(folder, place.file))
        for path, place in places(document, sources).items()
    }
    return as_sarif(made, found, __version__, f"{Path.cwd().as_uri()}/")


def _seen_from_here(folder: str, name: str) -> str:
    """The name of a file from where the command was called; its whole path where it lies elsewhere."""
    joined = posixpath.normpath(posixpath.join(folder, name))
    return joined if not joined.startswith("../") else Path(joined).resolve().as_posix()


def _fails(made: Report, fail_on: str, against: bool, one_theme: bool) -> bool:
    """Whether something open is as bad as ``fail_on``; against a baseline, something new; of one theme, something
    beside contrast, which is read there alone."""
    place = next(place for place, severity in enumerate(SEVERITIES) if severity == fail_on)
    worst = SEVERITIES[: place + 1]
    return any(
        item.finding.severity in worst and not (one_theme and item.section == "contrast")
        for item in (made.fresh if against else made.open)
    )


def _judged(document: Document, file: str) -> Analysis:
    """A document with the pairings that it says, or where it says none, those of all rules. Raises ``FormatError`` where
    they make none either."""
    analysis = Analysis(document)
    if rules.says_itself(document) and analysis.paired.pairings:
        return analysis
    every = tuple(Rule(rule.id, rule.id) for rule in rules.RULES)
    analysis = Analysis(replace(document, rules=every))
    if not analysis.paired.pairings:
        raise FormatError(
            "There are no pairings, and the names of the colors do not say what stands on what.",
            place=file,
            fix="Name pairings with --pairings.",
        )
    count = counted(len(analysis.by_rule), "pairing")
    shown = f", beside {len(document.pairings)} that its rules show" if document.pairings else ""
    click.echo(f"{count} by rule, as the file names none{shown}.", err=True)
    return analysis


def _rule_names(analysis: Analysis) -> dict[str, str]:
    """The id of the rule of each pairing by its key; of a pattern its words."""
    words = {rule.key: rule.by_role or rules.sentence(rule) for rule in analysis.document.rules}
    return {made.pairing.key: words.get(made.rule, made.rule) for made in analysis.by_rule}


def _members(
    analysis: Analysis, made_by: Mapping[str, str], pairing: Pairing, reading: Reading
) -> dict[str, Any]:
    document = analysis.paired

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
        "presumed": pairing.key in analysis.once(presumed),
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
