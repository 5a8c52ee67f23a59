"""Design Tokens documents out: a resolver document with its token files.

Files that came are written as they came wherever the document still says the same; what has
changed is written in its place. What the standard cannot say goes under ``$extensions``.
"""

from __future__ import annotations

import json
import posixpath
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from itertools import count
from typing import Any

from prism.errors import PrismError
from prism.formats import design_tokens, own_members, resolver, strict_json, token_values
from prism.formats.layers import OWN
from prism.tokens.model import (
    BASE,
    TYPES,
    Condition,
    Document,
    Entry,
    Expression,
    Layer,
    Source,
    Token,
    Value,
)
from prism.tokens.names import free_name, segment

_STANDARD_TYPES = frozenset(TYPES) - {"string", "boolean"}


@dataclass(frozen=True, slots=True)
class Written:
    """Files by name, the resolver document first, and what other readers will not see."""

    files: dict[str, str]
    remarks: tuple[str, ...]


@dataclass(slots=True)
class _Slot:
    """One line of a tree to be written: an entry that came, or a new token."""

    path: str
    members: dict[str, Any]
    token: str = ""
    hidden: bool = False
    folded: bool = False


@dataclass(slots=True)
class _Tree:
    key: str
    file: str
    slots: list[_Slot] = field(default_factory=list)

    def slot(self, token: str) -> _Slot | None:
        return next((slot for slot in self.slots if slot.token == token), None)


def write(document: Document) -> Written:
    """A resolver document and its token files, as text by file name.

    Reading the files again gives ``document`` with nothing lost.
    """
    builder = _Builder(document)
    files = builder.files()
    read = _read_back(files)
    remarks = list(builder.remarks)
    own = own_members.state(document, read)
    beyond = own.get("values", [])
    for many, one_axis in ((True, "on several axes"), (False, "")):
        said = [v for v in beyond if v["value"] is not None and (len(v["when"]) > 1) is many]
        if said:
            names = ", ".join(dict.fromkeys(value["path"] for value in said))
            what = f"Values {one_axis}" if many else "Values the files cannot say"
            remarks.append(f"{what} stand under $extensions only: {names}.")
    top = json.loads(files[builder.resolver_file])
    top.setdefault("$extensions", {})[OWN] = own
    return Written(files | {builder.resolver_file: strict_json.write(top)}, tuple(remarks))


def _read_back(files: dict[str, str]) -> Document:
    numbers = count()
    return resolver.read(
        {name: text.encode() for name, text in files.items()}, lambda: f"_{next(numbers)}"
    )


class _Builder:
    def __init__(self, document: Document) -> None:
        self.document = document
        self.resolver_file = document.resolver_file or (
            f"{segment(document.name or 'tokens')}.resolver.json"
        )
        self.remarks: list[str] = []
        self.trees: dict[str, _Tree] = {}
        self.layers: list[Layer] = []
        self.taken_files = {self.resolver_file, *(s.file for s in document.sources if s.file)}

    def files(self) -> dict[str, str]:
        self._lay_out()
        self._place_bases()
        self._place_conditions()
        self._describe()
        folder = posixpath.dirname(self.resolver_file)
        files = {self.resolver_file: strict_json.write(self._resolver(folder))}
        for tree in self.trees.values():
            if tree.file:
                files[tree.file] = strict_json.write(_nested(tree.slots))
        return files

    # Layout

    def _lay_out(self) -> None:
        known = [layer for layer in self.document.layers if self._stands(layer)]
        order = [layer.axis for layer in known if layer.axis]
        expected = [axis.key for axis in self.document.axes if axis.key in order]
        starts_with_set = bool(known) and not known[0].axis
        if order != expected or not starts_with_set:
            if self.document.layers:
                self.remarks.append(
                    "The order of sets and modifiers no longer fits the axes, so the files were "
                    "laid out anew."
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
            before = {one.key for one in self.document.axes[:i]}
            after = {one.key for one in self.document.axes[i + 1 :]}
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
        tree = _Tree("+tokens", self._file_name("tokens"))
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
            tree.slots.append(_Slot(group.path, members))
        self.trees[tree.key] = tree
        self.layers = [Layer("+set", "tokens", sources=(tree.key,))]
        self._add_axes()

    def _file_name(self, stem: str) -> str:
        folder = posixpath.dirname(self.resolver_file)
        stems = {name.removesuffix(".tokens.json") for name in self.taken_files}
        name = free_name(posixpath.join(folder, stem), stems) + ".tokens.json"
        self.taken_files.add(name)
        return name

    def _tree(self, source: Source) -> _Tree:
        tree = _Tree(source.key, source.file)
        for entry in source.entries:
            slot = self._slot(entry)
            if slot is not None:
                tree.slots.append(slot)
        return tree

    def _slot(self, entry: Entry) -> _Slot | None:
        members = json.loads(entry.text)
        if not entry.token:
            return _Slot(entry.path, members)
        token = self.document.token(entry.token)
        if token is None:
            return None
        return _Slot(token.path, members, token.key, entry.hidden, entry.folded)

    # Values

    def _place_bases(self) -> None:
        """Put every base value into a set that no modifier of its own comes before."""
        set_position: dict[str, int] = {}
        modifier_position: dict[str, int] = {}
        for position, layer in enumerate(self.layers):
            for key in layer.sources:
                set_position[key] = position
            if layer.axis:
                modifier_position[layer.axis] = position
        homes = self._homes(set_position)
        extended = {
            slot.path
            for key in set_position
            for slot in self.trees[key].slots
            if not slot.token and "$extends" in slot.members
        }
        previous: dict[str, str] = {}
        last_key = next(iter(set_position))
        for token in self.document.tokens:
            home = homes.get(token.key, "")
            limit = min(
                (modifier_position[a] for c, _ in token.values for a, _ in c.picks),
                default=len(self.layers),
            )
            base = token.value(BASE)
            if home and (base is None or set_position[home] > limit):
                tree = self.trees[home]
                tree.slots.remove(_found(tree, token.key))
                if base is not None:
                    self.remarks.append(f"{token.path} moved to an earlier set, before its modes.")
                home = ""
            if base is None or token.type not in _STANDARD_TYPES:
                continue
            if home:
                self._state(_found(self.trees[home], token.key), token, base)
                last_key = home
                continue
            if self._folds(token) or self._inherits(token, base, extended):
                continue
            allowed = [key for key, position in set_position.items() if position < limit]
            if not allowed:
                continue
            target = last_key if last_key in allowed else allowed[-1]
            self._insert(self.trees[target], token, base, previous.get(target, ""))
            homes[token.key] = target
            previous[target] = token.key
        for tree in (self.trees[key] for key in set_position):
            tree.slots = [
                slot
                for slot in tree.slots
                if not slot.token or homes.get(slot.token) == tree.key or slot.hidden
            ]

    def _homes(self, set_position: dict[str, int]) -> dict[str, str]:
        homes: dict[str, str] = {}
        for key in set_position:
            for slot in self.trees[key].slots:
                if slot.token and not slot.hidden:
                    homes[slot.token] = key
        return homes

    def _insert(self, tree: _Tree, token: Token, value: Value, previous: str) -> None:
        """Put a token that came from no file behind its neighbor in document order."""
        slot = _Slot(token.path, {}, token.key)
        self._state(slot, token, value)
        order = [one.key for one in self.document.tokens]
        before = set(order[: order.index(token.key)])
        spots = [n for n, one in enumerate(tree.slots) if one.token in before or not one.token]
        tree.slots.insert(spots[-1] + 1 if spots else 0, slot)

    def _folds(self, token: Token) -> bool:
        """Whether the base value stands in a default context that covers all it must."""
        axes = {axis for condition, _ in token.values for axis, _ in condition.picks}
        if len(axes) != 1:
            return False
        axis = self.document.axis(axes.pop())
        assert axis is not None
        stated = {condition.mode_on(axis.key) for condition, _ in token.values}
        covered = all(mode.key in stated or mode.key == axis.default for mode in axis.modes)
        layer = next(one for one in self.layers if one.axis == axis.key)
        keys = dict(layer.contexts)[axis.default]
        return covered and any(
            slot.folded and slot.token == token.key
            for key in keys
            for slot in self.trees[key].slots
        )

    def _inherits(self, token: Token, base: Value, extended: set[str]) -> bool:
        if not token.extends_from or not isinstance(base, Expression):
            return False
        for group in extended:
            if token.path.startswith(group + "."):
                target = token.extends_from + token.path.removeprefix(group)
                return base.text == "{" + target + "}"
        return False

    def _state(self, slot: _Slot, token: Token, value: Value) -> None:
        """Make a slot state ``value``: as it came where that still says the same."""
        slot.path = token.path
        if "$value" in slot.members or "$ref" in slot.members:
            try:
                if resolver.read_value(slot.members, token.type, token.path) == value:
                    return
            except PrismError:
                pass
        slot.members.pop("$ref", None)
        slot.members = {"$value": token_values.write(value, token.type)} | {
            name: member for name, member in slot.members.items() if name != "$value"
        }
        if "$type" not in slot.members:
            slot.members = {"$type": token.type, **slot.members}

    def _place_conditions(self) -> None:
        users: dict[str, list[tuple[str, str]]] = defaultdict(list)
        for layer in self.layers:
            for mode, keys in layer.contexts:
                for key in keys:
                    users[key].append((layer.axis, mode))
        for position, layer in enumerate(self.layers):
            if layer.axis:
                self.layers[position] = self._place_axis(layer, users)

    def _place_axis(self, layer: Layer, users: dict[str, list[tuple[str, str]]]) -> Layer:
        wanted = {mode: self._wanted(layer, mode) for mode, _ in layer.contexts}
        contexts = dict(layer.contexts)
        for key in dict.fromkeys(key for keys in contexts.values() for key in keys):
            tree = self.trees[key]
            for slot in list(tree.slots):
                token = self.document.token(slot.token) if slot.token else None
                if token is None or slot.hidden:
                    continue
                modes = [mode for mode, keys in contexts.items() if self._last(keys, slot) == key]
                values = [wanted[mode].get(token.key) for mode in modes]
                first = next((value for value in values if value is not None), None)
                if modes and (None in values or first is None):
                    tree.slots.remove(slot)
                elif first is not None:
                    self._state(slot, token, first)
        for mode, keys in list(contexts.items()):
            missing = [
                (token, value)
                for token_key, value in wanted[mode].items()
                if (token := self.document.token(token_key)) is not None
                and token.type in _STANDARD_TYPES
                and self._stated(contexts[mode], token) != value
                and not self._only_folded(layer, mode, token)
            ]
            if missing:
                contexts[mode], tree = self._own_tree(layer, mode, keys, users)
                for token, value in missing:
                    slot = tree.slot(token.key) or _Slot(token.path, {}, token.key)
                    if slot not in tree.slots:
                        tree.slots.append(slot)
                    slot.hidden = False
                    self._state(slot, token, value)
        return replace(layer, contexts=tuple(contexts.items()))

    def _wanted(self, layer: Layer, mode: str) -> dict[str, Value]:
        """What the context of one mode has to state, by token key."""
        condition = Condition(((layer.axis, mode),))
        found: dict[str, Value] = {}
        axis = self.document.axis(layer.axis)
        assert axis is not None
        folded = {
            slot.token
            for _, keys in layer.contexts
            for key in keys
            for slot in self.trees[key].slots
            if slot.folded
        }
        for token in self.document.tokens:
            value = token.value(condition)
            if value is None and mode == axis.default and token.key in folded:
                axes = {a for c, _ in token.values for a, _ in c.picks}
                value = token.value(BASE) if axes <= {layer.axis} else None
            if value is not None:
                found[token.key] = value
        return found

    def _only_folded(self, layer: Layer, mode: str, token: Token) -> bool:
        return token.value(Condition(((layer.axis, mode),))) is None and not self._folds(token)

    def _last(self, keys: Iterable[str], slot: _Slot) -> str:
        found = ""
        for key in keys:
            if any(one.token == slot.token for one in self.trees[key].slots):
                found = key
        return found

    def _stated(self, keys: Iterable[str], token: Token) -> Value | None:
        found = None
        for key in keys:
            for slot in self.trees[key].slots:
                if slot.token == token.key and not slot.hidden:
                    found = resolver.read_value(slot.members, token.type, token.path)
        return found

    def _own_tree(
        self,
        layer: Layer,
        mode: str,
        keys: tuple[str, ...],
        users: dict[str, list[tuple[str, str]]],
    ) -> tuple[tuple[str, ...], _Tree]:
        """The last tree that only this context uses, or a new one."""
        if keys and users[keys[-1]] == [(layer.axis, mode)]:
            return keys, self.trees[keys[-1]]
        axis = self.document.axis(layer.axis)
        assert axis is not None
        name = f"{segment(axis.name)}-{segment(axis.mode(mode).name)}"
        tree = _Tree(f"+{layer.axis}+{mode}", self._file_name(name))
        self.trees[tree.key] = tree
        users[tree.key] = [(layer.axis, mode)]
        return (*keys, tree.key), tree

    def _describe(self) -> None:
        """Bring ``$description`` and ``$deprecated`` up to date where they have changed."""
        slots: dict[str, list[_Slot]] = defaultdict(list)
        for layer in sorted(self.layers, key=lambda one: bool(one.axis)):
            for key in [*layer.sources, *(k for _, keys in layer.contexts for k in keys)]:
                for slot in self.trees[key].slots:
                    if slot.token:
                        slots[slot.token].append(slot)
        for token in self.document.tokens:
            mine = slots.get(token.key, [])
            if not mine:
                continue
            said = next(
                (s.members["$description"] for s in mine if s.members.get("$description")), ""
            )
            if said != token.description:
                for slot in mine:
                    slot.members.pop("$description", None)
                if token.description:
                    mine[0].members["$description"] = token.description
            marks = [d for s in mine if (d := design_tokens.deprecation(s.members)) is not None]
            if (marks[0] if marks else None) != token.deprecated:
                for slot in mine:
                    slot.members.pop("$deprecated", None)
                if token.deprecated is not None:
                    mine[0].members["$deprecated"] = token.deprecated or True

    # The resolver document

    def _resolver(self, folder: str) -> dict[str, Any]:
        document = self.document
        top: dict[str, Any] = {}
        if document.name:
            top["name"] = document.name
        top["version"] = document.version or "2025.10"
        if document.description:
            top["description"] = document.description
        sets: dict[str, Any] = {}
        modifiers: dict[str, Any] = {}
        order = []
        for layer in self.layers:
            rest = json.loads(layer.text) if layer.text else {}
            shelf = modifiers if layer.axis else sets
            name = free_name(self._name(layer), set(shelf))
            body: dict[str, Any] = {}
            if layer.axis:
                axis = document.axis(layer.axis)
                assert axis is not None
                if axis.description:
                    body["description"] = axis.description
                body["contexts"] = {
                    axis.mode(mode).name: [self._source(key, folder) for key in keys]
                    for mode, keys in layer.contexts
                }
                if layer.stated_default or axis.default != axis.modes[0].key:
                    body["default"] = axis.mode(axis.default).name
                order.append({"$ref": f"#/modifiers/{_escape(name)}"})
            else:
                if layer.description:
                    body["description"] = layer.description
                body["sources"] = [self._source(key, folder) for key in layer.sources]
                order.append({"$ref": f"#/sets/{_escape(name)}"})
            shelf[name] = body | rest
        top["sets"] = sets
        if modifiers:
            top["modifiers"] = modifiers
        top["resolutionOrder"] = order
        if document.resolver_text:
            top |= json.loads(document.resolver_text)
        return top

    def _name(self, layer: Layer) -> str:
        axis = self.document.axis(layer.axis) if layer.axis else None
        return axis.name if axis is not None else layer.name

    def _source(self, key: str, folder: str) -> dict[str, Any]:
        tree = self.trees[key]
        if tree.file:
            return {"$ref": posixpath.relpath(tree.file, folder or ".")}
        return _nested(tree.slots)


def _escape(name: str) -> str:
    return name.replace("~", "~0").replace("/", "~1")


def _found(tree: _Tree, token: str) -> _Slot:
    slot = tree.slot(token)
    assert slot is not None
    return slot


def _nested(slots: Iterable[_Slot]) -> dict[str, Any]:
    """Slots as a nested token tree, in order."""
    root: dict[str, Any] = {}
    for slot in slots:
        node = root
        for name in slot.path.split(".") if slot.path else ():
            node = node.setdefault(name, {})
        node.update(slot.members)
    return root
