"""Reading the steps of a resolver document: which trees apply, in which order, for which mode.

Source: Design Tokens Resolver Module 2025.10 (from memory of the module).
"""

from __future__ import annotations

import posixpath
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any
from urllib.parse import unquote

from prism.errors import FormatError
from prism.formats import design_tokens, strict_json
from prism.formats.design_tokens import Node
from prism.formats.limits import MAX_AXES
from prism.model.document import Axis, Mode
from prism.model.imported import Layer

NewKey = Callable[[], str]
OWN = "nimble-prism"
_MAX_MODES = 64
_STEP_MEMBERS = {"type", "name", "description", "sources", "contexts", "default", "$ref"}


@dataclass(slots=True)
class Tree:
    """One token tree: its key, the file it came from (empty if inline), its nodes."""

    key: str
    file: str
    raw: dict[str, Any]
    nodes: list[Node]


@dataclass(slots=True)
class Plan:
    """What a resolver document says, ready to be merged."""

    members: dict[str, Any]
    file: str
    axes: list[Axis] = field(default_factory=list)
    layers: list[Layer] = field(default_factory=list)
    trees: dict[str, Tree] = field(default_factory=dict)


def plan(files: Mapping[str, bytes], new_key: NewKey) -> Plan:
    """Read ``files`` (name to bytes): a resolver document with its token files, or token files.

    Without a resolver document all files are one set, in the order given.
    """
    return _Planner(files, new_key).plan()


class _Planner:
    def __init__(self, files: Mapping[str, bytes], new_key: NewKey) -> None:
        if not files:
            raise FormatError(
                "There is no file.", fix="Choose a .tokens.json or .resolver.json file."
            )
        self.new_key = new_key
        self.raw = {
            posixpath.normpath(name): strict_json.read(data, name) for name, data in files.items()
        }
        self.by_file: dict[tuple[str, str], Tree] = {}
        self.inline: dict[str, int] = {}
        self.file = ""

    def plan(self) -> Plan:
        resolvers = [name for name, raw in self.raw.items() if "resolutionOrder" in raw]
        if len(resolvers) > 1:
            raise FormatError(
                f"{len(resolvers)} resolver documents: {', '.join(resolvers)}.",
                fix="Import one of them.",
            )
        if not resolvers:
            return self._one_set()
        self.file = resolvers[0]
        self.top = self.raw[self.file]
        self.result = Plan(self.top, self.file)
        order = self.top["resolutionOrder"]
        if not isinstance(order, list):
            raise FormatError("resolutionOrder is a list.", place=self.file)
        named = set()
        for position, step in enumerate(order):
            kind, name, body = self._step(step, f"{self.file}, resolutionOrder {position + 1}")
            if (kind, name) in named:
                raise FormatError(f"“{name}” appears twice in resolutionOrder.", place=self.file)
            named.add((kind, name))
            (self._set if kind == "set" else self._modifier)(name, body)
        if len(self.result.axes) > MAX_AXES:
            raise FormatError(f"There are more than {MAX_AXES} modifiers.", place=self.file)
        return self.result

    def _one_set(self) -> Plan:
        first = next(iter(self.raw))
        result = Plan({}, "")
        for name, raw in self.raw.items():
            tree = self._tree(name, "", raw)
            result.trees[tree.key] = tree
        result.layers.append(Layer("set tokens", "tokens", sources=tuple(result.trees)))
        result.members = {"name": first.removesuffix(".json").removesuffix(".tokens")}
        return result

    def _step(self, step: Any, where: str) -> tuple[str, str, dict[str, Any]]:
        if not isinstance(step, dict):
            raise FormatError("A step is a reference or an object.", place=where)
        if "$ref" in step:
            target = str(step["$ref"])
            for kind, shelf in (("set", "sets"), ("modifier", "modifiers")):
                if target.startswith(f"#/{shelf}/"):
                    name = _unescape(target.removeprefix(f"#/{shelf}/"))
                    body = _object(self.top, shelf, self.file).get(name)
                    if not isinstance(body, dict):
                        raise FormatError(f"{target} is not in the document.", place=where)
                    return kind, name, body | {k: v for k, v in step.items() if k != "$ref"}
            raise FormatError(f"“{target[:80]}” is neither a set nor a modifier.", place=where)
        if step.get("type") not in ("set", "modifier") or not isinstance(step.get("name"), str):
            raise FormatError("An inline step has a type and a name.", place=where)
        return step["type"], step["name"], step

    def _set(self, name: str, body: dict[str, Any]) -> None:
        sources = self._sources(body.get("sources"), f"{self.file}, set {name}", (name,))
        self.result.layers.append(
            Layer(
                f"set {name}",
                name,
                description=str(body.get("description", "")),
                sources=tuple(sources),
                text=_rest(body),
            )
        )

    def _modifier(self, name: str, body: dict[str, Any]) -> None:
        where = f"{self.file}, modifier {name}"
        contexts = body.get("contexts")
        if not (isinstance(contexts, dict) and contexts):
            raise FormatError("A modifier has contexts.", place=where)
        if len(contexts) > _MAX_MODES:
            raise FormatError(f"A modifier has more than {_MAX_MODES} contexts.", place=where)
        default = body.get("default", next(iter(contexts)))
        if default not in contexts:
            raise FormatError(
                f"The default “{str(default)[:60]}” is not one of the contexts.",
                place=where,
                fix="Contexts: " + ", ".join(contexts) + ".",
            )
        key = self.new_key()
        modes = {context: Mode(self.new_key(), context) for context in contexts}
        described = str(body.get("description", ""))
        self.result.axes.append(
            Axis(key, name, tuple(modes.values()), modes[default].key, described)
        )
        self.result.layers.append(
            Layer(
                f"modifier {name}",
                name,
                axis=key,
                description=described,
                contexts=tuple(
                    (modes[context].key, tuple(self._sources(raw, f"{where}, {context}", ())))
                    for context, raw in contexts.items()
                ),
                stated_default="default" in body,
                text=_rest(body),
            )
        )

    def _sources(self, raw: Any, where: str, inside: tuple[str, ...]) -> list[str]:
        if not isinstance(raw, list):
            raise FormatError("Sources are a list.", place=where)
        keys: list[str] = []
        for source in raw:
            if not isinstance(source, dict):
                raise FormatError("A source is a reference or a token tree.", place=where)
            target = source.get("$ref")
            if not isinstance(target, str):
                keys.append(self._keep(self._tree("", where, source)))
            elif target.startswith("#/sets/"):
                name = _unescape(target.removeprefix("#/sets/"))
                body = _object(self.top, "sets", self.file).get(name)
                if name in inside or not isinstance(body, dict):
                    fault = "refers to itself" if name in inside else "does not exist"
                    raise FormatError(f"The set “{name}” {fault}.", place=where)
                keys.extend(self._sources(body.get("sources"), where, (*inside, name)))
            else:
                keys.append(self._keep(self._file(target, where)))
        return keys

    def _keep(self, tree: Tree) -> str:
        self.result.trees[tree.key] = tree
        return tree.key

    def _file(self, target: str, where: str) -> Tree:
        if "://" in target or target.startswith(("//", "/")) or "#" in target:
            raise FormatError(
                f"“{target[:80]}” is not a file beside the resolver document.",
                place=where,
                fix="Only whole files imported with it are read.",
            )
        name = posixpath.normpath(posixpath.join(posixpath.dirname(self.file), unquote(target)))
        if name not in self.raw:
            raise FormatError(
                f"“{target[:80]}” is named here and was not imported.",
                place=where,
                fix="Import the resolver document together with all its token files.",
            )
        return self._tree(name, "", self.raw[name])

    def _tree(self, file: str, where: str, raw: dict[str, Any]) -> Tree:
        known = self.by_file.get((file, where)) if file else None
        if known is None:
            nodes = list(design_tokens.walk(raw, file or where))
            key = file
            if not file:
                self.inline[where] = self.inline.get(where, 0) + 1
                key = f"{where.removeprefix(self.file + ', ')} {self.inline[where]}"
            known = Tree(key, file, raw, nodes)
            if file:
                self.by_file[(file, where)] = known
        return known


def _unescape(name: str) -> str:
    return unquote(name).replace("~1", "/").replace("~0", "~")


def _object(raw: dict[str, Any], name: str, file: str) -> dict[str, Any]:
    member = raw.get(name, {})
    if not isinstance(member, dict):
        raise FormatError(f"“{name}” is not an object.", place=file)
    return member


def _rest(body: dict[str, Any]) -> str:
    rest = {name: value for name, value in body.items() if name not in _STEP_MEMBERS}
    return strict_json.compact(rest) if rest else ""
