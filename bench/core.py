"""Speed and memory of the core, as ratios of two ways measured in one run.

Writes ``docs/benchmarks.md``.
"""

from __future__ import annotations

import gc
import platform
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from itertools import count
from pathlib import Path

from bench import documents, machine, palettes
from prism import starters
from prism.analysis import Analysis
from prism.color import space
from prism.model.document import Document, Mode
from prism.model.values import BASE, Condition, Expression
from prism.modes import counterpart, proposal
from prism.modes.review import Asked, Review, review
from prism.resolution.answer_tables import AnswerTables, find
from prism.resolution.contrast_table import ContrastTable
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver
from prism.roles import rules
from prism.roles.guess import guess
from prism.sheet import filters
from prism.sheet.cell_commands import SetValue
from prism.starters import preview
from prism.starters.plan import NamedColor, Plan, sorted_out

TABLE = Path(__file__).parent.parent / "docs" / "benchmarks.md"
_ALONE = 8
_COLORS = ("#0b6e75", "#7a3b69", "#e0b13c")


def timed(work: Callable[[], object]) -> tuple[float, object]:
    """Seconds that ``work`` takes, and what it gives; without collecting garbage, as timeit."""
    gc.collect()
    gc.disable()
    started = time.perf_counter()
    found = work()
    seconds = time.perf_counter() - started
    gc.enable()
    return seconds, found


def all_themes(built: Document) -> list[str]:
    """Resolving all themes at once against each theme by itself without a memo between them."""
    runs = []
    for _ in range(2):
        resolver = Resolver(built)
        tables = AnswerTables(resolver)
        runs.append(timed(tables.all))
    together, answers = min(runs, key=lambda run: run[0])
    themes = list(resolver.themes())
    sample = themes[:: len(themes) // _ALONE][:_ALONE]

    def alone() -> None:
        for theme in sample:
            single = Resolver(built)
            for token in built.tokens:
                single.resolve(token.key, theme)

    compile_time, _ = timed(lambda: [Resolver(built) for _ in range(2)])
    apart, _ = timed(alone)
    apart = (apart - compile_time / 2 * len(sample)) * len(themes) / len(sample)
    for theme in sample:
        single = Resolver(built)
        for token in built.tokens:
            assert single.resolve(token.key, theme) == find(tables.of(token.key), theme)
    rows = [
        f"| all themes at once | {together:.2f} s, {resolver.evaluations:,} evaluations, {answers:,} distinct answers |",
        f"| each theme by itself, no memo between them | {apart:.1f} s (from {len(sample)} of {len(themes)} themes) |",
        f"| **ratio, at least 20** | **{apart / together:.0f}** |",
    ]
    busiest = max(built.tokens[:60], key=lambda token: len(resolver.graph.users([token.key]))).key
    changed = _edited(built, busiest)
    fresh, _ = timed(lambda: AnswerTables(Resolver(changed)).all())
    started = time.perf_counter()
    kept = Resolver(changed, resolver)
    reached = kept.graph.users([busiest])
    for key in reached:
        for theme in themes:
            kept.resolve(key, theme)
    again = time.perf_counter() - started
    rows.append(
        f"| after an edit of one raw color, which {len(reached):,} tokens reach, those in all themes | {kept.evaluations:,} evaluations, "
        f"{again:.2f} s; from nothing {fresh:.2f} s |"
    )
    return rows


def _edited(built: Document, key: str) -> Document:
    value = ((BASE, Expression("#123456")),)
    tokens = [replace(token, values=value) if token.key == key else token for token in built.tokens]
    return replace(built, tokens=tuple(tokens))


def growth() -> list[str]:
    """Cost of 1k, 10k and 50k tokens against the number of distinct answers."""
    rows = []
    for size in (1_000, 10_000, 50_000):
        built = documents.document(size)
        resolver = Resolver(built)
        seconds, answers = timed(AnswerTables(resolver).all)
        assert isinstance(answers, int)
        made = resolver.evaluations
        rows.append(
            f"| {size:,} tokens | {seconds:.2f} s | {answers:,} | {seconds / answers * 1e6:.1f} µs "
            f"| {made:,} | {seconds / made * 1e6:.0f} µs |"
        )
    return rows


def audit(built: Document) -> list[str]:
    """Auditing pairings in all themes against pair by pair with coloraide."""
    resolver = Resolver(built)
    tables = AnswerTables(resolver)
    tables.all()
    runs = [timed(lambda: _failing(ContrastTable(tables, built.pairings))) for _ in range(3)]
    seconds, found = min(runs, key=lambda run: run[0])
    survey = ContrastTable(tables, built.pairings)
    themes = list(resolver.themes())
    sample = [(p, t) for p in built.pairings[:: len(built.pairings) // 40] for t in themes[::9]]
    verdicts: list[bool] = []

    def alone() -> None:
        for pairing, theme in sample:
            colors = [
                resolver.resolve(k, theme).color for k in (pairing.foreground, *pairing.backgrounds)
            ]
            first, second = (_luminance(color) for color in colors if color is not None)
            ratio = (max(first, second) + 0.05) / (min(first, second) + 0.05)
            verdicts.append(ratio >= pairing.required)

    apart, _ = timed(alone)
    apart *= len(built.pairings) * len(themes) / len(sample)
    for (pairing, theme), verdict in zip(sample, verdicts, strict=True):
        assert survey.reading(pairing.key, theme).passes == verdict, (pairing, theme)
    return [
        f"| {len(built.pairings):,} pairings in {len(themes)} themes at once | {seconds:.2f} s, "
        f"{found:,} fall short in some theme |",
        f"| pair by pair, coloraide's conversions and the WCAG constants | {apart:.0f} s "
        f"(from {len(sample):,} of {len(built.pairings) * len(themes):,}, same verdicts) |",
        f"| **ratio, at least 50** | **{apart / seconds:.0f}** |",
    ]


def roles() -> list[str]:
    """Roles and rules of 10,000 colors, roles after one edit, and a proposal for 2,000."""
    built = documents.rooms(10_000)
    resolver = Resolver(built)
    (seconds, known), *_ = sorted(
        (timed(lambda: guess(built, resolver)) for _ in range(3)), key=_first
    )
    assert isinstance(known, dict)
    by_rule, _ = timed(lambda: rules.pairings(built, known))
    before = Analysis(built)
    assert before.roles
    changed = SetValue(built.tokens[9].key, "#123456", Condition.of({"look": "dark"})).apply(built)
    after = Analysis(changed, before)
    assert after.resolver
    again, _ = timed(lambda: after.roles)
    colored = Analysis(SetValue(built.tokens[9].key, "#654321").apply(built), before)
    assert colored.resolver
    follows, _ = timed(lambda: colored.roles)
    small = documents.rooms(2_000)
    start = resolver_of(small)
    guesses = guess(small, start)
    place = counterpart.NewMode("look", "light", "night")
    proposed, made = timed(
        lambda: counterpart.propose(small, start, guesses, dark=True, place=place)
    )
    assert isinstance(made, counterpart.Proposal)
    return [
        f"| roles of 10,000 colors | {seconds * 1000:.0f} ms, at most 500 |",
        f"| rules over them | {by_rule * 1000:.0f} ms, at most 500 |",
        f"| roles after an edit in another mode | {again * 1000:.0f} ms, at most 10 |",
        f"| roles after an edit of a color | {follows * 1000:.0f} ms, at most 10 |",
        f"| a dark mode for 2,000 colors | {proposed:.2f} s, at most 1; {len(made.pairs):,} pairings, "
        f"{len(made.after)} fall short |",
    ]


def first_hour() -> list[str]:
    """The preview of a new project after a change, in every starting point; what Find waits for."""
    lines = []
    colors = [NamedColor(f"c{place}", text) for place, text in enumerate(_COLORS)]
    for starter in starters.STARTERS:
        plan = replace(sorted_out(colors), start=starter.id)
        seconds, made = timed(partial(_preview, plan))
        assert isinstance(made, preview.Shown)
        lines.append(
            f"| preview of a new project, {starter.id}: {made.tokens} tokens, {len(made.pairings)} "
            f"pairings | {seconds:.2f} s, at most 1 |"
        )
    built = documents.document(5_000)
    analysis = Analysis(built)
    cold, _ = timed(lambda: analysis.found_by)
    asked = filters.Filter("12")
    warm, chosen = timed(lambda: filters.choose(analysis, asked, []))
    after = Analysis(_edited(built, built.tokens[9].key), analysis)
    again, _ = timed(lambda: after.found_by)
    assert isinstance(chosen, list)
    return [
        *lines,
        f"| Find in 5,000 tokens, 288 themes: {len(chosen)} found | {warm * 1000:.0f} ms, at most 100 |",
        f"| Find after an edit | {again * 1000:.0f} ms, at most 100 |",
        f"| Find for the first time | {cold:.2f} s |",
    ]


def modes_solved() -> list[str]:
    """Modes proposed and solved, in products of two sizes."""
    lines = []
    for semantic, pairs, brands, contrasts, most in ((120, 300, 3, 3, 3), (400, 1500, 6, 3, 20)):
        built = palettes.product(semantic, pairs, brands, contrasts)
        night = Mode("night", "night", color_scheme="dark")
        asked = Asked("appearance", "light", night)
        propose = partial(proposal.propose, built, "appearance", "light", "night", "dark")
        first, *again = (timed(propose)[0] for _ in range(6))
        solved, made = timed(partial(review, built, asked))
        assert isinstance(made, Review)
        proof = "proven nearest" if made.solved.proven else "not proven"
        lines.append(
            f"| {semantic} semantic tokens, {len(built.pairings):,} pairings, {brands * contrasts} themes | "
            f"proposed in {statistics.median(again):.3f} s, {first:.3f} the first time; solved in {solved:.1f} s, at most {most}: {proof}, "
            f"{len(made.solved.moves)} moved, {len(made.short)} fall short |"
        )
    return lines


def _preview(plan: Plan) -> preview.Shown:
    numbers = count()
    return preview.shown(Analysis(starters.build(plan, lambda: f"k{next(numbers)}")))


def _first(run: tuple[float, object]) -> float:
    return run[0]


def _failing(survey: ContrastTable) -> int:
    """How many pairings fall short in some theme."""
    return sum(survey.falls_short(key) for key in survey.pairings)


def _luminance(color: space.Color) -> float:
    """Relative luminance of one 8-bit color, by coloraide's linear light and WCAG's weights."""
    painted = space.Engine(space.hex_text(color)[:7])
    red, green, blue = painted.convert("srgb-linear").coords()
    return float(0.2126 * red + 0.7152 * green + 0.0722 * blue)


def memory() -> str:
    """Peak memory of a process of its own that resolves the 10,000-token document."""
    code = (
        "from bench import core, documents\n"
        "from prism.resolution.resolver import Resolver\n"
        "from prism.resolution.answer_tables import AnswerTables\n"
        "AnswerTables(Resolver(documents.document(10_000))).all()\n"
        "print(core.peak())"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    return f"| 10,000 tokens, all themes | {float(done.stdout):.0f} MB, at most 400 |"


def peak() -> float:
    """Peak memory of this process in MB, as Linux counts it (VmHWM)."""
    lines = Path("/proc/self/status").read_text().splitlines()
    return int(next(line for line in lines if line.startswith("VmHWM")).split()[1]) / 1024


def main() -> None:
    """Measure everything and write the table."""
    grown = growth()
    built = documents.document(10_000, pairings=2_000)
    parts = [
        "# Benchmarks",
        "",
        f"Made by `./dev bench` on {platform.machine()}, Python {platform.python_version()}, two cores. "
        "Ratios compare two ways in one run; the slow way is measured on a sample and scaled, and "
        "both must give the same on it. The documents come from `bench/documents.py`.",
        "",
        "## Resolution",
        "",
        documents.facts(built) + ".",
        "",
        "| | |",
        "| --- | --- |",
        *all_themes(built),
        "",
        "## Growth",
        "",
        "| | all themes | distinct answers | an answer | computed | each of these |",
        "| --- | --- | --- | --- | --- | --- |",
        *grown,
        "",
        "## Audit",
        "",
        "| | |",
        "| --- | --- |",
        *audit(built),
        "",
        "## Roles",
        "",
        "| | |",
        "| --- | --- |",
        *roles(),
        "",
        "## The first hour",
        "",
        "| | |",
        "| --- | --- |",
        *first_hour(),
        "",
        "## Modes solved",
        "",
        "| | |",
        "| --- | --- |",
        *modes_solved(),
        "",
        "## Memory",
        "",
        "| | |",
        "| --- | --- |",
        memory(),
        "",
    ]
    text = "\n".join(parts)
    machine.write(TABLE, text)
    print(text)


if __name__ == "__main__":
    main()
