"""Values that no theme shows, because a later set overrides them."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, tokens_of
from prism.model.document import Axis, Document, Token, shown_path
from prism.model.imported import Entry, Source


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each value of an imported file that a later set overrides in every theme."""
    document = analysis.document
    set_names = {
        key: layer.name for layer in document.layers if not layer.axis for key in layer.sources
    }
    for axis, mode, source, entry in _hidden_entries(document):
        token = document.token(entry.token)
        if token is None:
            continue
        place = f" for {axis.name} = {axis.mode(mode).name}" if axis and mode else ""
        cause = _overriding_set(document, token, set_names)
        yield Finding(
            "hidden",
            f"{shown_path(token.path)}{place} never shows"
            + (f": the set “{cause}” comes later and overrides it." if cause else "."),
            token.key,
            source.file,
            fixes=(Fix("Move the set before the modifier, or take the value out."),),
            about=place.strip(),
        )


def _hidden_entries(document: Document) -> Iterator[tuple[Axis | None, str, Source, Entry]]:
    """Entries that no theme shows, each with the axis, the mode and the source it stands in."""
    for layer in document.layers:
        axis = document.axis(layer.axis) if layer.axis else None
        contexts = [("", layer.sources)] if axis is None else list(layer.contexts)
        for mode, keys in contexts:
            for source in document.sources:
                for entry in source.entries if source.key in keys else ():
                    if entry.hidden:
                        yield axis, mode, source, entry


def _overriding_set(document: Document, token: Token, set_names: dict[str, str]) -> str:
    names = [
        set_names[source.key]
        for source in document.sources
        if source.key in set_names
        for entry in source.entries
        if entry.token == token.key and not entry.hidden
    ]
    return names[-1] if names else ""


CHECK = Check("hidden", "Never shows", "A value that no theme shows is misleading.", run, tokens_of)
