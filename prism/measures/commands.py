"""Measures, texts and scales."""

from __future__ import annotations

from dataclasses import dataclass

from prism.commands.command import Command, command, keys_from
from prism.commands.names import short
from prism.measures import scales
from prism.model.document import Document


@command("add-measure")
@dataclass(frozen=True, slots=True)
class AddMeasure(Command):
    """Add a single raw measure, text, or yes or no."""

    key: str
    path: str
    type: str
    value: str

    def apply(self, document: Document) -> Document:
        return scales.add_plain(document, self.path, self.type, self.value, keys_from(self.key))

    def sentence(self, before: Document) -> str:
        return f"Added {short(self.path)}"


@command("add-scale")
@dataclass(frozen=True, slots=True)
class AddScale(Command):
    """Add a scale of raw measures on a base and a factor."""

    key: str
    kind: str
    group: str
    values: str
    base: str = ""
    factor: str = ""
    names: str = ""

    def apply(self, document: Document) -> Document:
        return scales.add_scale(
            document,
            scales.kind_of(self.kind),
            self.group,
            self.base,
            self.factor,
            self.values,
            keys_from(self.key),
            names=self.names,
        )

    def sentence(self, before: Document) -> str:
        return f"Added scale {short(self.group)}"
