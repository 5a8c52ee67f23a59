"""Circles in a graph of references."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator


def strong_components(
    starts: Iterable[str],
    targets_of: Callable[[str], Iterable[str]],
    known: Callable[[str], bool],
) -> Iterator[list[str]]:
    """Strongly connected components reached from ``starts``, targets first.

    Source: Tarjan 1972, "Depth-First Search and Linear Graph Algorithms", without recursion.
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
