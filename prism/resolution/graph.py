"""The graph of references: what reaches what, and circles."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Iterator, Mapping


def strong_components(
    starts: Iterable[str],
    targets_of: Callable[[str], Iterable[str]],
    known: Callable[[str], bool],
) -> Iterator[list[str]]:
    """Strongly connected components reached from ``starts``, targets first.

    Source: Tarjan 1972, "Depth-First Search and Linear Graph Algorithms", without recursion. One
    loop over one stack, long because its parts share all of their state.
    """
    index: dict[str, int] = {}
    low: dict[str, int] = {}
    stack: list[str] = []
    on_stack: set[str] = set()
    work: list[tuple[str, Iterator[str]]] = []

    def enter(key: str) -> None:
        index[key] = low[key] = len(index)
        stack.append(key)
        on_stack.add(key)
        work.append((key, iter(targets_of(key))))

    for start in starts:
        if start in index or known(start):
            continue
        enter(start)
        while work:
            key, targets = work[-1]
            for target in targets:
                if target not in index:
                    if not known(target):
                        enter(target)
                        break
                elif target in on_stack:
                    low[key] = min(low[key], index[target])
            else:
                work.pop()
                if work:
                    low[work[-1][0]] = min(low[work[-1][0]], low[key])
                if low[key] == index[key]:
                    members: list[str] = []
                    while not members or members[-1] != key:
                        members.append(stack.pop())
                        on_stack.discard(members[-1])
                    yield members


class Graph:
    """Which nodes name which, and who is named by whom."""

    def __init__(self, targets: Mapping[str, Iterable[str]]) -> None:
        """``targets`` are the nodes that each node names."""
        self._targets = {key: frozenset(named) for key, named in targets.items()}
        self._users: dict[str, frozenset[str]] = {}
        users: dict[str, list[str]] = {}
        for key, named in self._targets.items():
            for target in named:
                users.setdefault(target, []).append(key)
        self._users = {target: frozenset(keys) for target, keys in users.items()}

    def named(self) -> set[str]:
        """Every node that another one names."""
        return {target for target, users in self._users.items() if users}

    def changed(self, targets: Mapping[str, Iterable[str]]) -> Graph:
        """The graph in which some nodes name others than here."""
        graph = Graph({})
        graph._targets, graph._users = dict(self._targets), dict(self._users)
        for key, named in targets.items():
            was, now = graph._targets.get(key, frozenset()), frozenset(named)
            graph._targets[key] = now
            for target in was - now:
                graph._users[target] -= {key}
            for target in now - was:
                graph._users[target] = graph._users.get(target, frozenset()) | {key}
        return graph

    def users(self, keys: Iterable[str]) -> set[str]:
        """Nodes and all that name one of them, over any number of others."""
        return _closure(keys, self._users)

    def reach(self, keys: Iterable[str]) -> set[str]:
        """Nodes and all that they name, over any number of others."""
        return _closure(keys, self._targets)


def _closure(keys: Iterable[str], edges: Mapping[str, Iterable[str]]) -> set[str]:
    seen = set(keys)
    work = list(seen)
    while work:
        for other in edges.get(work.pop(), ()):
            if other not in seen:
                seen.add(other)
                work.append(other)
    return seen


def circle(
    first: str, members: Collection[str], targets: Callable[[str], Iterable[str]]
) -> list[str]:
    """The shortest way from a key through ``members`` back to itself, without its end. There is one
    where the members are a circle."""
    reached: dict[str, str] = {}
    queue = [first]
    for key in queue:
        for target in targets(key):
            if target == first:
                chain = [key]
                while chain[-1] != first:
                    chain.append(reached[chain[-1]])
                return chain[::-1]
            if target in members and target not in reached:
                reached[target] = key
                queue.append(target)
    return [first]
