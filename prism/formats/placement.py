"""Where each value of a document is stated in its files.

A line that came is kept as it came where it still says the same. A base value stands in a set
before the modifiers that vary it; a value of one mode in that context, in a tree that no other
context shares unless they agree.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import replace

from prism.color import space
from prism.errors import ExpressionError, PrismError
from prism.expressions.parsed import Parsed
from prism.expressions.types import TOKEN_TYPES
from prism.expressions.values import leaves, parse
from prism.formats import statements, token_values
from prism.formats.descriptions import describe
from prism.formats.layout import Layout, Slot, Tree
from prism.formats.spots import Spots, slot_of
from prism.model.document import Document, Token
from prism.model.imported import Layer
from prism.model.names import segment
from prism.model.values import BASE, Absent, Condition, Expression, Value
from prism.resolution.answers import Items, Parts, css_value
from prism.resolution.resolver import Resolver, Theme

#: The axes and modes that read each tree, by its key.
_Users = dict[str, list[tuple[str, str]]]
_STANDARD_TYPES = frozenset(known.name for known in TOKEN_TYPES.values() if known.standard)


class Placement:
    """Updates the trees of a layout to what the document says."""

    def __init__(self, layout: Layout) -> None:
        self.layout = layout
        self.document = layout.document
        self.resolver = Resolver(layout.document)
        self.default = self.resolver.default_theme

    def place(self) -> None:
        """State every value, description and deprecation."""
        self.place_bases()
        self.place_conditions()
        describe(self.layout)

    def state_types(self, read: Document) -> bool:
        """Write out the type of each token that ``read`` has another type for."""
        types = {token.path: token.type for token in read.tokens}
        wrong = {
            token.key: token.type
            for token in self.document.tokens
            if types.get(token.path, token.type) != token.type
        }
        for tree in self.layout.trees.values():
            for slot in tree.slots:
                if slot.token in wrong:
                    slot.members = {"$type": wrong[slot.token], **slot.members}
        return bool(wrong)

    def place_bases(self) -> None:
        """Put every base value into a set that no modifier of its own comes before."""
        set_position: dict[str, int] = {}
        modifier_position: dict[str, int] = {}
        for position, layer in enumerate(self.layout.layers):
            for key in layer.sources:
                set_position[key] = position
            if layer.axis:
                modifier_position[layer.axis] = position
        homes = self._homes(set_position)
        spots = {key: Spots(self.layout.trees[key]) for key in set_position}
        extended = self._extended_groups(set_position)
        last_key = next(iter(set_position))
        for token in self.document.tokens:
            for spot in spots.values():
                spot.reach(token.key)
            limit = min(
                (modifier_position[c.picks[0][0]] for c, _ in token.values if len(c.picks) == 1),
                default=len(self.layout.layers),
            )
            base = token.value(BASE)
            home = self._kept_home(token, base, homes, spots, set_position, limit)
            if base is None or not self._sayable(token, base):
                continue
            if home:
                self._state(slot_of(self.layout.trees[home], token.key), token, base)
                last_key = home
            elif not (self._folds(token) or self._inherits(token, base, extended)):
                allowed = [key for key, position in set_position.items() if position < limit]
                if allowed:
                    target = last_key if last_key in allowed else allowed[-1]
                    slot = Slot(token.path, {}, token.key)
                    self._state(slot, token, base)
                    spots[target].insert(slot)
                    homes[token.key] = target
        for key, spot in spots.items():
            self.layout.trees[key].put(
                [s for s in spot.slots() if not s.token or homes.get(s.token) == key or s.hidden]
            )

    def _extended_groups(self, sets: Iterable[str]) -> set[str]:
        """Paths of the groups that extend another one."""
        return {
            slot.path
            for key in sets
            for slot in self.layout.trees[key].slots
            if not slot.token and "$extends" in slot.members
        }

    def _kept_home(
        self,
        token: Token,
        base: Value | None,
        homes: dict[str, str],
        spots: Mapping[str, Spots],
        set_position: Mapping[str, int],
        limit: int,
    ) -> str:
        """The set that a token's base value stays in; empty where it has none, or may not stay."""
        home = homes.get(token.key, "")
        if home and (base is None or set_position[home] > limit):
            spots[home].drop(token.key)
            if base is not None:
                self.layout.remarks.append(
                    f"{token.path} moved to an earlier set, before its modes."
                )
            home = ""
        if home and (base is None or not self._sayable(token, base)):
            spots[home].drop(token.key)
            homes.pop(token.key, None)
            home = ""
        return home

    def _sayable(self, token: Token, value: Value) -> bool:
        return token.type in _STANDARD_TYPES and self._plain(token, value) is not None

    def _homes(self, set_position: dict[str, int]) -> dict[str, str]:
        homes: dict[str, str] = {}
        for key in set_position:
            for slot in self.layout.trees[key].slots:
                if slot.token and not slot.hidden:
                    homes[slot.token] = key
        return homes

    def _folds(self, token: Token) -> bool:
        """Whether the base value stands in a default context that covers all it must."""
        axes = {axis for condition, _ in token.values for axis, _ in condition.picks}
        if len(axes) != 1:
            return False
        axis = self.document.axis(axes.pop())
        assert axis is not None
        stated = {condition.mode_on(axis.key) for condition, _ in token.values}
        covered = all(mode.key in stated or mode.key == axis.default for mode in axis.modes)
        layer = next(layer for layer in self.layout.layers if layer.axis == axis.key)
        keys = dict(layer.contexts)[axis.default]
        return covered and any(
            slot.folded for key in keys for slot in self.layout.trees[key].of(token.key)
        )

    def _inherits(self, token: Token, base: Value, extended: set[str]) -> bool:
        if not token.extends_from or not isinstance(base, Expression):
            return False
        for group in extended:
            if token.path.startswith(group + "."):
                target = token.extends_from + token.path.removeprefix(group)
                return base.text == "{" + target + "}"
        return False

    def _plain(self, token: Token, value: Value, theme: Theme | None = None) -> Value | None:
        """``value`` with every computed part as the literal it comes to; None where broken."""
        if isinstance(value, Absent):
            return None
        if not any(
            self._is_computed(parse(leaf.text, expected))
            for leaf, expected in leaves(value, token.type)
        ):
            return value
        try:
            value_read = self.resolver.value_in(value, token.type, theme or self.default)
        except ExpressionError:
            return None
        if isinstance(value_read, space.Color):
            return Expression(space.css_text(space.fit(value_read, self.document.gamut)))
        return (
            None
            if isinstance(value_read, Parts | Items)
            else Expression(css_value(value_read, token.type))
        )

    def _is_computed(self, parsed: Parsed) -> bool:
        """Whether other readers could not make out what an expression refers to."""
        if parsed.tree is not None and parsed.references:
            return True
        return any(self.resolver.is_piece(path) for path in parsed.references)

    def _state(self, slot: Slot, token: Token, value: Value, theme: Theme | None = None) -> None:
        """Make a slot state ``value``: as it came where that still says the same."""
        slot.path = token.path
        plain = self._plain(token, value, theme)
        if plain is None:
            raise ExpressionError("This cannot be written as a plain value.")
        value = plain
        if "$value" in slot.members or "$ref" in slot.members:
            try:
                if statements.read_value(slot.members, token.type, token.path) == value:
                    return
            except PrismError:
                pass
        slot.members.pop("$ref", None)
        slot.members = {"$value": token_values.write(value, token.type)} | {
            name: member for name, member in slot.members.items() if name != "$value"
        }
        if "$type" not in slot.members:
            slot.members = {"$type": token.type, **slot.members}

    def place_conditions(self) -> None:
        """Put every value of one axis alone into a context of its modifier."""
        users: _Users = defaultdict(list)
        for layer in self.layout.layers:
            for mode, keys in layer.contexts:
                for key in keys:
                    users[key].append((layer.axis, mode))
        for position, layer in enumerate(self.layout.layers):
            if layer.axis:
                self.layout.layers[position] = self._place_axis(layer, users)

    def _place_axis(self, layer: Layer, users: _Users) -> Layer:
        wanted = {mode: self._wanted(layer, mode) for mode, _ in layer.contexts}
        contexts = dict(layer.contexts)
        for key in dict.fromkeys(key for keys in contexts.values() for key in keys):
            self._restate(key, contexts, wanted)
        for mode, keys in list(contexts.items()):
            missing = self._missing(layer, mode, keys, wanted[mode])
            if missing:
                contexts[mode], tree = self._own_tree(layer, mode, keys, users)
                for token, value in missing:
                    if tree.slot(token.key) is None:
                        tree.append(Slot(token.path, {}, token.key))
                    slot = slot_of(tree, token.key)
                    slot.hidden = False
                    self._state(slot, token, value)
        return replace(layer, contexts=tuple(contexts.items()))

    def _restate(
        self,
        key: str,
        contexts: Mapping[str, tuple[str, ...]],
        wanted: Mapping[str, Mapping[str, Value]],
    ) -> None:
        """Let the slots of one tree say what the modes that read them want; the others go."""
        tree = self.layout.trees[key]
        gone: set[int] = set()
        for slot in tree.slots:
            token = self.document.token(slot.token) if slot.token else None
            if token is None or slot.hidden:
                continue
            modes = [mode for mode, keys in contexts.items() if self._last(keys, slot) == key]
            values = [wanted[mode].get(token.key) for mode in modes]
            stated = values[0] if values and None not in values else None
            if stated is not None and self._sayable(token, stated):
                self._state(slot, token, stated)
            elif values:
                gone.add(id(slot))
        tree.put([slot for slot in tree.slots if id(slot) not in gone])

    def _missing(
        self, layer: Layer, mode: str, keys: tuple[str, ...], wanted: Mapping[str, Value]
    ) -> list[tuple[Token, Value]]:
        """What a mode wants and the trees ``keys`` do not say for it."""
        return [
            (token, value)
            for token_key, value in wanted.items()
            if (token := self.document.token(token_key)) is not None
            and self._sayable(token, value)
            and self._stated(keys, token) != self._plain(token, value)
            and not (
                self._only_folded(layer, mode, token)
                and self._varied(token, layer.axis, mode) is None
            )
        ]

    def _wanted(self, layer: Layer, mode: str) -> dict[str, Value]:
        """What the context of one mode has to state, by token key."""
        condition = Condition(((layer.axis, mode),))
        values: dict[str, Value] = {}
        axis = self.document.axis(layer.axis)
        assert axis is not None
        folded = {
            slot.token
            for _, keys in layer.contexts
            for key in keys
            for slot in self.layout.trees[key].slots
            if slot.folded
        }
        for token in self.document.tokens:
            value = token.value(condition)
            if value is None and mode == axis.default and token.key in folded:
                axes = {a for c, _ in token.values for a, _ in c.picks}
                value = token.value(BASE) if axes <= {layer.axis} else None
            if value is None:
                value = self._varied(token, layer.axis, mode)
            if value is not None:
                values[token.key] = value
        return values

    def _varied(self, token: Token, axis: str, mode: str) -> Value | None:
        """The literal a computed base value comes to in one mode, where it differs there.

        Other readers cannot compute, so they are told in every context where it varies.
        """
        base = token.value(BASE)
        if base is None or len(token.values) > 1:
            return None
        plain = self._plain(token, base)
        if plain is None or plain == base or axis not in self.resolver.influence(token.key):
            return None
        there = self._plain(token, base, self.resolver.theme({axis: mode}))
        return there if there != plain else None

    def _only_folded(self, layer: Layer, mode: str, token: Token) -> bool:
        return token.value(Condition(((layer.axis, mode),))) is None and not self._folds(token)

    def _last(self, keys: Iterable[str], slot: Slot) -> str:
        holding = [key for key in keys if self.layout.trees[key].of(slot.token)]
        return holding[-1] if holding else ""

    def _stated(self, keys: Iterable[str], token: Token) -> Value | None:
        stated = None
        for key in keys:
            for slot in self.layout.trees[key].of(token.key):
                if not slot.hidden:
                    stated = statements.read_value(slot.members, token.type, token.path)
        return stated

    def _own_tree(
        self, layer: Layer, mode: str, keys: tuple[str, ...], users: _Users
    ) -> tuple[tuple[str, ...], Tree]:
        """The last tree that only this context uses, or a new one."""
        if keys and users[keys[-1]] == [(layer.axis, mode)]:
            return keys, self.layout.trees[keys[-1]]
        axis = self.document.axis(layer.axis)
        assert axis is not None
        name = f"{segment(axis.name)}-{segment(axis.mode(mode).name)}"
        tree = Tree(f"+{layer.axis}+{mode}", self.layout.file_name(name))
        self.layout.trees[tree.key] = tree
        users[tree.key] = [(layer.axis, mode)]
        return (*keys, tree.key), tree
