"""What a scheme usually has and this one lacks: a role, a state, a mode, a translation.

What is usual is common practice of the trade, no source.
"""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.contrast.fix_all import modes_axis
from prism.coverage.needs import NEEDS, coverage_of
from prism.model.document import Token, shown_path

#: Roles that cannot be the same on a light and on a dark page.
_TURNING = {("page", ""), ("surface", ""), ("text", ""), ("text", "quiet")}


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each gap; none where nothing says what any color is for."""
    if not _needs(analysis).count:
        return
    for gap in analysis.once(coverage_of).gaps:
        kind, _, key = gap.id.partition(" ")
        words = f"Missing{f' in {gap.where}' if gap.where else ''}: {gap.name}"
        yield Finding(
            "coverage",
            f"{words}. {gap.why}",
            key,
            gap.where,
            about=f"{kind} {gap.where}".strip(),
            fixes=(Fix("Add it", "add-missing", (("need", gap.id),)),),
        )
    yield from _without_hover(analysis)
    yield from _same_by_night(analysis)
    yield from _untranslated(analysis)


def _without_hover(analysis: Analysis) -> Iterator[Finding]:
    """Fills of actions with no state for the pointer."""
    hovered = {known.belongs_to for known in analysis.roles.values() if known.role.state == "hover"}
    for token in analysis.document.tokens:
        known = analysis.roles.get(token.key)
        if known is None or token.tier != "semantic" or token.type != "color":
            continue
        role = known.role
        is_action = (role.kind, role.detail, role.state) == ("fill", "action", "")
        if is_action and token.key not in hovered:
            yield Finding(
                "coverage",
                f"{shown_path(token.path)} has no hover state.",
                token.key,
                about="hover",
                severity="note",
                fixes=(Fix("Add a color for it under the pointer."),),
            )


def _same_by_night(analysis: Analysis) -> Iterator[Finding]:
    """Pages, surfaces and texts that are the same in a light and in a dark mode."""
    axis = modes_axis(analysis.document)
    schemes = (
        {mode.color_scheme: i for i, mode in reversed([*enumerate(axis.modes)])} if axis else {}
    )
    if axis is None or not {"light", "dark"} <= set(schemes):
        return
    place = analysis.resolver.axis_index[axis.key]
    default = analysis.resolver.default_theme
    light, dark = (
        (*default[:place], schemes[scheme], *default[place + 1 :]) for scheme in ("light", "dark")
    )
    for token in analysis.document.tokens:
        known = analysis.roles.get(token.key)
        if known is None or token.tier != "semantic" or known.role.state:
            continue
        if (known.role.kind, known.role.detail) not in _TURNING:
            continue
        colors = [analysis.resolver.resolve(token.key, theme).hex for theme in (light, dark)]
        if colors[0] and colors[0] == colors[1]:
            yield Finding(
                "coverage",
                f"{shown_path(token.path)} has no value of its own in "
                f"{axis.modes[schemes['dark']].name}: it stays {colors[0]}.",
                token.key,
                axis.modes[schemes["dark"]].name,
                about="dark",
                fixes=(Fix("Give it a value there, or propose the mode again."),),
            )


def _untranslated(analysis: Analysis) -> Iterator[Finding]:
    """Texts without a value in a mode in which most other texts have one."""
    texts = [token for token in analysis.document.tokens if token.type == "string"]
    for axis in analysis.document.axes:
        for mode in axis.modes:
            if mode.key == axis.default:
                continue
            lacking = [token for token in texts if not _varies(token, axis.key, mode.key)]
            if len(lacking) * 2 >= len(texts):
                continue
            for token in lacking:
                yield Finding(
                    "coverage",
                    f"{shown_path(token.path)} has no text of its own in {mode.name}.",
                    token.key,
                    mode.name,
                    about=f"text {axis.key} {mode.key}",
                    severity="note",
                    fixes=(Fix("Write its text there."),),
                )


def _varies(token: Token, axis: str, mode: str) -> bool:
    return any(condition.mode_on(axis) == mode for condition, _ in token.values)


def _needs(analysis: Analysis) -> Looked:
    known = sum(guess.role.kind != "unknown" for guess in analysis.roles.values())
    return Looked(
        len(NEEDS) if known else 0, "kind of color a scheme needs", "kinds of color a scheme needs"
    )


CHECK = Check(
    "coverage",
    "Coverage",
    "What nobody designed is improvised in code.",
    run,
    _needs,
    "coverage",
)
