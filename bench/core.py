"""Speed and memory of the core, as ratios of two ways measured in one run.

Writes ``docs/benchmarks.md``.
"""

from __future__ import annotations

import platform
import resource
import subprocess
import sys
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from bench import documents
from prism.checks.contrast import survey
from prism.color import space
from prism.tokens.model import BASE, Document, Expression
from prism.tokens.resolve import Resolver

TABLE = Path(__file__).parent.parent / "docs" / "benchmarks.md"
_ALONE = 24


def timed(work: Callable[[], object]) -> tuple[float, object]:
    """Seconds that ``work`` takes, and what it gives."""
    started = time.perf_counter()
    found = work()
    return time.perf_counter() - started, found


def all_themes(built: Document) -> list[str]:
    """Resolving all themes at once against each theme by itself without a memo between them."""
    resolver = Resolver(built)
    together, answers = timed(resolver.resolve_all)
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
            assert single.resolve(token.key, theme) == resolver.resolve(token.key, theme)
    rows = [
        f"| all themes at once | {together:.2f} s, {resolver.evaluations:,} evaluations, {answers:,} distinct answers |",
        f"| each theme by itself, no memo between them | {apart:.1f} s (from {len(sample)} of {len(themes)} themes) |",
        f"| **ratio, at least 20** | **{apart / together:.0f}** |",
    ]
    changed = _edited(built)
    fresh, _ = timed(lambda: Resolver(changed).resolve_all())
    kept = Resolver(changed, resolver)
    again, _ = timed(kept.resolve_all)
    reached = len(kept.users(["t0"]))
    rows.append(
        f"| after an edit of one raw color, which {reached:,} tokens reach | {kept.evaluations:,} evaluations, "
        f"{again:.2f} s; from nothing {fresh:.2f} s |"
    )
    return rows


def _edited(built: Document) -> Document:
    first = replace(built.tokens[0], values=((BASE, Expression("#123456")),))
    return replace(built, tokens=(first, *built.tokens[1:]))


def growth() -> list[str]:
    """Cost of 1k, 10k and 50k tokens against the number of distinct answers."""
    rows = []
    for count in (1_000, 10_000, 50_000):
        built = documents.document(count)
        resolver = Resolver(built)
        seconds, answers = timed(resolver.resolve_all)
        assert isinstance(answers, int)
        rows.append(
            f"| {count:,} tokens | {seconds:.2f} s | {answers:,} | {seconds / answers * 1e6:.1f} µs |"
        )
    return rows


def audit(built: Document) -> list[str]:
    """Auditing pairings in all themes against pair by pair with coloraide."""
    resolver = Resolver(built)
    resolver.resolve_all()
    seconds, found = timed(lambda: survey(resolver, built.pairings))
    assert isinstance(found, dict)
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
        part = next(p for p in found[pairing.key] if all(theme[a] == m for a, m in p.fixed))
        assert part.reading.passes == verdict, (pairing, theme)
    return [
        f"| {len(built.pairings):,} pairings in {len(themes)} themes at once | {seconds:.2f} s, "
        f"{sum(len(parts) for parts in found.values()):,} parts |",
        f"| pair by pair, coloraide's conversions and the WCAG constants | {apart:.0f} s "
        f"(from {len(sample):,} of {len(built.pairings) * len(themes):,}, same verdicts) |",
        f"| **ratio, at least 50** | **{apart / seconds:.0f}** |",
    ]


def _luminance(color: space.Color) -> float:
    """Relative luminance of one 8-bit color, by coloraide's linear light and WCAG's weights."""
    painted = space.Engine(space.hex_text(color)[:7])
    red, green, blue = painted.convert("srgb-linear").coords()
    return float(0.2126 * red + 0.7152 * green + 0.0722 * blue)


def memory() -> str:
    """Peak memory of a process of its own that resolves the 10,000-token document."""
    code = (
        "from bench import core, documents\n"
        "from prism.tokens.resolve import Resolver\n"
        "Resolver(documents.document(10_000)).resolve_all()\n"
        "print(core.peak())"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    return f"| 10,000 tokens, all themes | {float(done.stdout):.0f} MB, at most 400 |"


def peak() -> float:
    """Peak memory of this process in MB."""
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def main() -> None:
    """Measure everything and write the table."""
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
        "| | all themes | distinct answers | an answer |",
        "| --- | --- | --- | --- |",
        *growth(),
        "",
        "## Audit",
        "",
        "| | |",
        "| --- | --- |",
        *audit(built),
        "",
        "## Memory",
        "",
        "| | |",
        "| --- | --- |",
        memory(),
        "",
    ]
    text = "\n".join(parts)
    TABLE.write_text(text)
    print(text)


if __name__ == "__main__":
    main()
