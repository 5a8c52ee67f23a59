"""How a document is laid out in files: the trees of an import taken over, or new."""

from __future__ import annotations

import json
import posixpath
from dataclasses import dataclass, field, replace
from typing import Any

from prism.model.document import Document
from prism.model.imported import Entry, Layer, Source
from prism.model.names import free_name, segment


@dataclass(slots=True)
class Slot:
    """One line of a tree to be written: an entry that came, or a new token."""

    path: str
    members: dict[str, Any]
    token: str = ""
    hidden: bool = False
    folded: bool = False


@dataclass(slots=True)
class Tree:
    """One file, or one inline tree, on its way out; its lines change through its methods."""

    key: str
    file: str
    slots: list[Slot] = field(default_factory=list)
    _index: dict[str, list[Slot]] | None = field(default=None, repr=False, compare=False)

    def of(self, token: str) -> list[Slot]:
        """The lines of a token, in order."""
        if self._index is None:
            self._index = {}
            for slot in self.slots:
                self._index.setdefault(slot.token, []).append(slot)
        return self._index.get(token, [])

    def slot(self, token: str) -> Slot | None:
        """The first line of a token, or None."""
        return next(iter(self.of(token)), None)

    def append(self, slot: Slot) -> None:
        """Put a line at the end."""
        self.slots.append(slot)
        if self._index is not None:
            self._index.setdefault(slot.token, []).append(slot)

    def put(self, slots: list[Slot]) -> None:
        """Let ``slots`` be the lines."""
        self.slots, self._index = slots, None


class Layout:
    """The trees and layers of a document on their way out; trees can be changed in place."""

    def __init__(self, document: Document) -> None:
        self.document = document
        self.resolver_file = document.resolver_file or (
            f"{segment(document.name or 'tokens')}.resolver.json"
        )
        self.remarks: list[str] = []
        self.trees: dict[str, Tree] = {}
        self.layers: list[Layer] = []
        self.taken_files = {self.resolver_file, *(s.file for s in document.sources if s.file)}

    def lay_out(self) -> None:
        """Take over the imported trees and layers, or put everything into a single set."""
        known = [layer for layer in self.document.layers if self._stands(layer)]
        order = [layer.axis for layer in known if layer.axis]
        expected = [axis.key for axis in self.document.axes if axis.key in order]
        starts_with_set = bool(known) and not known[0].axis
        if order != expected or not starts_with_set:
            if self.document.layers:
                self.remarks.append(
                    "The order of sets and modifiers no longer fits the axes, so the files were "
                    "laid out again."
                )
            self._lay_out_anew()
            return
        for source in self.document.sources:
            self.trees[source.key] = self._tree(source)
        self.layers = [
            replace(layer, contexts=self._contexts(layer)) if layer.axis else layer
            for layer in known
        ]
        self._add_axes()

    def _stands(self, layer: Layer) -> bool:
        return not layer.axis or self.document.axis(layer.axis) is not None

    def _contexts(self, layer: Layer) -> tuple[tuple[str, tuple[str, ...]], ...]:
        axis = self.document.axis(layer.axis)
        assert axis is not None
        stated = dict(layer.contexts)
        return tuple((mode.key, stated.get(mode.key, ())) for mode in axis.modes)

    def _add_axes(self) -> None:
        """Modifiers for axes that no layer speaks of, each behind the axis before it."""
        for i, axis in enumerate(self.document.axes):
            if any(layer.axis == axis.key for layer in self.layers):
                continue
            before = {other.key for other in self.document.axes[:i]}
            after = {other.key for other in self.document.axes[i + 1 :]}
            spots = [n for n, layer in enumerate(self.layers) if layer.axis in before]
            later = [n for n, layer in enumerate(self.layers) if layer.axis in after]
            spot = spots[-1] + 1 if spots else later[0] if later else len(self.layers)
            contexts = tuple((mode.key, ()) for mode in axis.modes)
            layer = Layer(
                f"+{axis.key}",
                axis.name,
                axis=axis.key,
                description=axis.description,
                contexts=contexts,
            )
            self.layers.insert(spot, layer)

    def _lay_out_anew(self) -> None:
        self.taken_files = {self.resolver_file}
        tree = Tree("+tokens", self.file_name("tokens"))
        for group in self.document.groups:
            members: dict[str, Any] = {}
            if group.type:
                members["$type"] = group.type
            if group.description:
                members["$description"] = group.description
            if group.extends:
                members["$extends"] = "{" + group.extends + "}"
            if group.extensions:
                members["$extensions"] = json.loads(group.extensions)
            tree.append(Slot(group.path, members))
        self.trees[tree.key] = tree
        self.layers = [Layer("+set", "tokens", sources=(tree.key,))]
        self._add_axes()

    def file_name(self, stem: str) -> str:
        """A token file's name like ``stem`` that is not taken yet."""
        folder = posixpath.dirname(self.resolver_file)
        stems = {name.removesuffix(".tokens.json") for name in self.taken_files}
        name = free_name(posixpath.join(folder, stem), stems) + ".tokens.json"
        self.taken_files.add(name)
        return name

    def _tree(self, source: Source) -> Tree:
        tree = Tree(source.key, source.file)
        for entry in source.entries:
            slot = self._slot(entry)
            if slot is not None:
                tree.append(slot)
        return tree

    def _slot(self, entry: Entry) -> Slot | None:
        members = json.loads(entry.text)
        if not entry.token:
            return Slot(entry.path, members)
        token = self.document.token(entry.token)
        if token is None:
            return None
        return Slot(token.path, members, token.key, entry.hidden, entry.folded)
