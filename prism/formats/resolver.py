"""Design Tokens documents in: token files, alone or under a resolver document."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from prism.errors import FormatError
from prism.expressions.values import nearest
from prism.formats import design_tokens, strict_json
from prism.formats.layers import OWN, NewKey, Plan, Tree, plan
from prism.formats.limits import MAX_TOKENS
from prism.formats.own_members import restore
from prism.formats.statements import (
    Draft,
    Statement,
    read_value,
    unread_members,
    walk_order,
)
from prism.formats.types_of_tokens import place_of, settle_types
from prism.formats.wholeness import whole
from prism.model.document import Axis, Document, Group, Token
from prism.model.imported import Entry, Source
from prism.model.names import settle_names
from prism.model.values import BASE, Condition, Expression, Value
from prism.resolution.graph import strong_components
from prism.roles.tiers import with_tiers


def read(files: Mapping[str, bytes], new_key: NewKey) -> Document:
    """A document from ``files`` (name to bytes).

    ``new_key`` hands out a fresh key at each call. Raises ``FormatError`` with the place for
    anything that cannot be read whole; nothing is read in part.
    """
    return _Merger(plan(files, new_key), new_key, strict=True).document()


def read_alone(files: Mapping[str, bytes], new_key: NewKey) -> Document:
    """What ``files`` say by themselves: a reference may lead out of them, and a token whose
    type cannot be told then has an empty one."""
    return _Merger(plan(files, new_key), new_key, strict=False).document()


class _Merger:
    def __init__(self, read_plan: Plan, new_key: NewKey, *, strict: bool) -> None:
        self.plan = read_plan
        self.new_key = new_key
        self.strict = strict
        self.axes = {axis.key: axis for axis in read_plan.axes}
        self.drafts: dict[str, Draft] = {}
        self.groups: dict[str, list[design_tokens.Node]] = {}
        self.extended: dict[str, str] = {}
        #: Tokens, and groups that extend others, by each group that they are in.
        self.drafts_under: dict[str, list[str]] = {}
        self.extended_under: dict[str, list[str]] = {}

    def document(self) -> Document:
        self._gather()
        for draft in self.drafts.values():
            self._hide(draft)
        self._extend()
        paths = self._ordered_paths()
        settle_types(self.drafts, paths, strict=self.strict)
        keys = {path: self.new_key() for path in paths}
        tokens = tuple(self._token(self.drafts[path], keys[path]) for path in paths)
        document = Document(
            name=str(self.plan.members.get("name", "")),
            description=str(self.plan.members.get("description", "")),
            version=str(self.plan.members.get("version", "")),
            resolver_file=self.plan.file,
            resolver_text=unread_members(self.plan.members) if self.plan.file else "",
            axes=tuple(self.plan.axes),
            groups=self._group_notes(paths),
            tokens=with_tiers(tokens),
            sources=tuple(self._source(tree, keys) for tree in self.plan.trees.values()),
            layers=tuple(self.plan.layers),
        )
        extensions = self.plan.members.get("$extensions")
        own = extensions.get(OWN) if isinstance(extensions, dict) else None
        if isinstance(own, dict):
            document = restore(document, own, self.plan.file)
        document = settle_names(document)
        return whole(document, self._places(), self.plan.file) if self.strict else document

    # Gathering

    def _gather(self) -> None:
        position = 0
        for layer in self.plan.layers:
            steps = [("", layer.sources)] if not layer.axis else list(layer.contexts)
            for mode, sources in steps:
                for key in sources:
                    tree = self.plan.trees[key]
                    for node in tree.nodes:
                        self._add(Statement(tree, node, layer, mode, position))
                    position += 1

    def _add(self, statement: Statement) -> None:
        path = statement.node.path
        if statement.node.is_token:
            self.drafts.setdefault(path, Draft(path)).statements.append(statement)
            return
        self.groups.setdefault(path, []).append(statement.node)
        if "$extends" in statement.node.members:
            where = f"{statement.tree.file or statement.layer.name}, {path}"
            self.extended[path] = design_tokens.extended_path(
                statement.node.members["$extends"], where
            )

    def _hide(self, draft: Draft) -> None:
        """Mark what never shows, and fold a default context that may stand as the base."""
        last_set = max((s.position for s in draft.statements if not s.mode), default=-1)
        latest: dict[tuple[str, str], int] = {}
        for statement in draft.statements:
            latest[statement.layer.axis, statement.mode] = statement.position
        for statement in draft.statements:
            newest = latest[statement.layer.axis, statement.mode]
            over = statement.position < last_set
            statement.hidden = over or statement.position < newest
        shown = [s for s in draft.statements if not s.hidden]
        if any(not s.mode for s in shown) or len({s.layer.axis for s in shown}) != 1:
            return
        axis = self.axes[shown[0].layer.axis]
        if {s.mode for s in shown} == {mode.key for mode in axis.modes}:
            for statement in shown:
                statement.folded = statement.mode == axis.default

    # Extending

    def _extend(self) -> None:
        for path in self.drafts:
            self._register(path)
        for group in self.extended:
            for prefix in _prefixes(group):
                self.extended_under.setdefault(prefix, []).append(group)
        for members in strong_components(self.extended, self._extended_first, lambda path: False):
            path = members[-1]
            parent = self.extended[path]
            if len(members) > 1 or parent == path or parent.startswith(path + "."):
                raise FormatError(f"The group “{path[:60]}” extends itself.", place=path)
            self._inherit(path, parent)

    def _register(self, path: str) -> None:
        """Know a token under each group that it is in."""
        for prefix in _prefixes(path):
            self.drafts_under.setdefault(prefix, []).append(path)

    def _extended_first(self, path: str) -> list[str]:
        """The groups that have to inherit before another one can."""
        parent = self.extended[path]
        around = [group for group in (*_prefixes(parent), parent) if group in self.extended]
        return [g for g in (*around, *self.extended_under.get(parent, ())) if g != path]

    def _inherit(self, path: str, parent: str) -> None:
        inherited = list(self.drafts_under.get(parent, ()))
        if len(self.drafts) + len(inherited) > MAX_TOKENS:
            raise FormatError(
                f"With what “{path[:60]}” extends there are more than {MAX_TOKENS} tokens.",
                place=path,
            )
        if not inherited and parent not in self.groups:
            raise FormatError(
                f"The group “{parent}” that is extended here does not exist.",
                place=path,
                fix=nearest(parent, self.groups),
            )
        for target in inherited:
            own = path + target.removeprefix(parent)
            if own not in self.drafts:
                self.drafts[own] = Draft(own)
                self._register(own)
            self.drafts[own].inherits = target

    # Order and types

    def _ordered_paths(self) -> list[str]:
        """Token paths in the order of the merged tree, an extended group's own order first."""
        root: dict[str, Any] = {}

        def place(path: str) -> None:
            node = root
            for name in path.split("."):
                node = node.setdefault(name, {})

        hidden = {
            (s.tree.key, s.node.path)
            for draft in self.drafts.values()
            for s in draft.statements
            if s.hidden
        }
        hidden -= {
            (s.tree.key, s.node.path)
            for draft in self.drafts.values()
            for s in draft.statements
            if not s.hidden
        }
        for layer in self.plan.layers:
            for key in [*layer.sources, *(k for _, keys in layer.contexts for k in keys)]:
                for node in self.plan.trees[key].nodes:
                    if node.is_token and (key, node.path) in hidden:
                        continue
                    if node.is_token:
                        place(node.path)
                    elif node.path in self.extended:
                        parent = self.extended[node.path]
                        for path in self.drafts_under.get(parent, ()):
                            place(node.path + path.removeprefix(parent))
        return [path for path in walk_order(root) if path in self.drafts]

    # Building

    def _places(self) -> dict[str, str]:
        return {
            path: place_of(draft.statements[-1])
            for path, draft in self.drafts.items()
            if draft.statements
        }

    def _token(self, draft: Draft, key: str) -> Token:
        values: dict[Condition, Value] = {}
        for statement in draft.statements:
            value = read_value(statement.node.members, draft.type, place_of(statement))
            if not statement.hidden:
                if not statement.mode or statement.folded:
                    values[BASE] = value
                if statement.mode and not statement.folded:
                    condition = Condition(((statement.layer.axis, statement.mode),))
                    if self._differs(draft, statement, value, values.get(BASE)):
                        values[condition] = value
        if draft.inherits and BASE not in values:
            values = {BASE: Expression("{" + draft.inherits + "}"), **values}
        stated = [s.node.members for s in draft.statements if not s.mode] or [
            s.node.members for s in draft.statements
        ]
        return Token(
            key=key,
            path=draft.path,
            type=draft.type,
            tier="raw",
            values=tuple(values.items()),
            description=next((m["$description"] for m in stated if m.get("$description")), ""),
            deprecated=next(
                (d for m in stated if (d := design_tokens.deprecation(m)) is not None), None
            ),
            extensions=next(
                (strict_json.compact(m["$extensions"]) for m in stated if m.get("$extensions")), ""
            ),
            extends_from=self._parent_group(draft) if draft.inherits else "",
        )

    def _differs(
        self, draft: Draft, statement: Statement, value: Value, base: Value | None
    ) -> bool:
        """Whether a context's value must stand as a condition; a repeat of the base need not."""
        axis = self.axes[statement.layer.axis]
        alone = {s.layer.axis for s in draft.statements if s.mode and not s.hidden} == {axis.key}
        statement.folded = statement.mode == axis.default and alone and value == base
        return not statement.folded

    def _parent_group(self, draft: Draft) -> str:
        around = [group for group in _prefixes(draft.path) if group in self.extended]
        parents = [self.extended[group] for group in around]
        return next((p for p in parents if draft.inherits.startswith(p + ".")), "")

    def _group_notes(self, paths: Iterable[str]) -> tuple[Group, ...]:
        notes = []
        for path, nodes in self.groups.items():
            merged: dict[str, Any] = {}
            for node in nodes:
                for name, value in node.members.items():
                    merged.setdefault(name, value)
            if path and merged:
                notes.append(
                    Group(
                        path,
                        description=merged.get("$description", ""),
                        type=merged.get("$type", ""),
                        extends=self.extended.get(path, ""),
                        extensions=strict_json.compact(merged["$extensions"])
                        if "$extensions" in merged
                        else "",
                    )
                )
        return tuple(notes)

    def _source(self, tree: Tree, keys: Mapping[str, str]) -> Source:
        hidden: dict[str, bool] = {}
        folded: dict[str, bool] = {}
        for draft in self.drafts.values():
            for statement in draft.statements:
                if statement.tree is tree:
                    hidden[draft.path] = hidden.get(draft.path, True) and statement.hidden
                    folded[draft.path] = folded.get(draft.path, False) or statement.folded
        entries = tuple(
            Entry(
                node.path,
                strict_json.compact(node.members),
                keys[node.path] if node.is_token else "",
                hidden.get(node.path, False),
                folded.get(node.path, False),
            )
            for node in tree.nodes
        )
        return Source(tree.key, tree.file, entries)


def _prefixes(path: str) -> list[str]:
    """The groups that a path is in, the outermost first."""
    places = [place for place, sign in enumerate(path) if sign == "."]
    return [path[:place] for place in places]


def axis_of(document: Document, name: str) -> Axis | None:
    """The axis with this name, or None."""
    return next((axis for axis in document.axes if axis.name == name), None)
