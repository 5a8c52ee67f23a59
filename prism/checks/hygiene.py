"""Hygiene: what is stored and cannot be meant, or is meant and cannot be seen."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from prism.checks.findings import Finding
from prism.expressions.evaluation import Calculation, Quantity
from prism.expressions.values import references
from prism.model.document import BASE, Document, Token, shown_path
from prism.resolution.answer_tables import Tables
from prism.resolution.answers import css_value
from prism.resolution.current import resolver_of


@dataclass(frozen=True, slots=True)
class Check:
    """A check over the document alone: a stable id, a name, why it matters, and its run."""

    id: str
    name: str
    why: str
    run: Callable[[Document], list[Finding]]


def _hidden(document: Document) -> list[Finding]:
    setting = {
        key: layer.name for layer in document.layers if not layer.axis for key in layer.sources
    }
    found = []
    for layer in document.layers:
        axis = document.axis(layer.axis) if layer.axis else None
        places = [("", layer.sources)] if axis is None else list(layer.contexts)
        for mode, keys in places:
            for source in document.sources:
                for entry in source.entries if source.key in keys else ():
                    token = document.token(entry.token) if entry.hidden else None
                    if token is None:
                        continue
                    where = f" for {axis.name} = {axis.mode(mode).name}" if axis and mode else ""
                    by = _overriding_set(document, token, setting)
                    found.append(
                        Finding(
                            "hidden",
                            f"{shown_path(token.path)}{where} never shows"
                            + (f": the set “{by}” comes later and overrides it." if by else "."),
                            token.key,
                            source.file,
                            "Move the set before the modifier, or take the value out.",
                        )
                    )
    return found


def _overriding_set(document: Document, token: Token, setting: dict[str, str]) -> str:
    names = [
        setting[source.key]
        for source in document.sources
        if source.key in setting
        for entry in source.entries
        if entry.token == token.key and not entry.hidden
    ]
    return names[-1] if names else ""


def _partly_absent(document: Document) -> list[Finding]:
    found = []
    for token in document.tokens:
        if token.value(BASE) is not None:
            continue
        where = []
        for axis in document.axes:
            names = [
                axis.mode(mode).name
                for mode in dict.fromkeys(c.mode_on(axis.key) for c, _ in token.values)
                if mode is not None
            ]
            if names:
                where.append(f"{axis.name} {' and '.join(names)}")
        found.append(
            Finding(
                "absent",
                f"{shown_path(token.path)} is there only under {', '.join(where)}."
                if where
                else f"{shown_path(token.path)} has no value at all.",
                token.key,
                mend="Give it a base value, if it is meant to show elsewhere.",
            )
        )
    return found


def _broken(document: Document) -> list[Finding]:
    """Tokens that themselves refer to nothing, to another type or in a circle in some theme."""
    tables = Tables(resolver_of(document))
    found = []
    for token in document.tokens:
        if not any(list(references(value, token.type)) for _, value in token.values):
            continue
        said = {
            a.broken: fixed for fixed, a in tables.of(token.key) if a.broken and not a.passed_on
        }
        for sentence, fixed in said.items():
            where = ", ".join(
                f"{axis.name} {axis.modes[mode].name}"
                for axis, mode in zip(document.axes, fixed, strict=True)
                if mode >= 0
            )
            found.append(
                Finding(
                    "broken",
                    f"{shown_path(token.path)} has no result: {sentence}",
                    token.key,
                    where,
                    "Give it another value.",
                )
            )
    return found


def _literals(document: Document) -> list[Finding]:
    return [
        Finding(
            "literal",
            f"{shown_path(token.path)} holds a literal among references.",
            token.key,
            mend="Link it to a raw token.",
        )
        for token in document.tokens
        if token.tier != "raw"
        and token.type == "color"
        and any(not list(references(value, token.type)) for _, value in token.values)
    ]


def _unused(document: Document) -> list[Finding]:
    used = {
        target.key
        for token in document.tokens
        for _, value in token.values
        for path in references(value, token.type)
        if (target := document.token_at(path)) is not None
    }
    for pairing in document.pairings:
        used.update((pairing.foreground, *pairing.backgrounds, pairing.page))
    return [
        Finding(
            "deprecated" if token.deprecated is not None else "unused",
            f"{shown_path(token.path)} is unused"
            + (
                f" and deprecated: {token.deprecated or 'no successor is named'}."
                if token.deprecated is not None
                else "."
            ),
            token.key,
            mend="Remove it, or say what it is for.",
        )
        for token in document.tokens
        if token.key not in used and (token.tier == "raw" and token.deprecated is not None)
    ]


def _units(document: Document) -> list[Finding]:
    known = {"dimension": ("px", "rem"), "duration": ("ms", "s")}
    resolver = resolver_of(document)
    found = []
    for token in document.tokens:
        if token.type in known:
            value = resolver.resolve(token.key, resolver.default_theme).value
            if isinstance(value, Calculation) or (
                isinstance(value, Quantity) and value.unit not in known[token.type]
            ):
                found.append(
                    Finding(
                        "unit",
                        f"{shown_path(token.path)} is {css_value(value, token.type)}, which "
                        f"Design Tokens files cannot say.",
                        token.key,
                        mend=f"They know {' and '.join(known[token.type])}; other readers see text.",
                    )
                )
    return found


def _defaults(document: Document) -> list[Finding]:
    return [
        Finding(
            "default",
            f"{layer.name} names no default; its first mode stands in.",
            mend="Name the default mode.",
        )
        for layer in document.layers
        if layer.axis and not layer.stated_default and document.axis(layer.axis) is not None
    ]


CHECKS = (
    Check("broken", "Broken", "What refers to nothing shows nothing.", _broken),
    Check("hidden", "Never shows", "A value that no theme shows misleads its reader.", _hidden),
    Check("absent", "There in part", "A missing value is a hole in some theme.", _partly_absent),
    Check("literal", "Literal", "A literal does not follow its palette.", _literals),
    Check("unused", "Unused", "What nobody uses is still read by everybody.", _unused),
    Check("unit", "Unit", "Other readers cannot reckon with it.", _units),
    Check("default", "No default", "Readers differ on what an unnamed default is.", _defaults),
)


def run(document: Document) -> list[Finding]:
    """What every hygiene check has to say, in the order of the checks."""
    return [finding for check in CHECKS for finding in check.run(document)]
