"""The type of each token of imported files: its own, its alias target's, else its group's."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from prism.errors import FormatError
from prism.expressions.values import nearest
from prism.formats.statements import Draft, Statement, reference_in


def place_of(statement: Statement) -> str:
    """Where a statement stands, for messages."""
    return f"{statement.tree.file or statement.layer.name}, {statement.node.path}"


def settle_types(drafts: Mapping[str, Draft], paths: Iterable[str], *, strict: bool) -> None:
    """Give every draft its type.

    Raises ``FormatError`` for a token that states two, and, where ``strict``, for one without.
    """
    types = _Types(drafts)
    for path in paths:
        draft = drafts[path]
        draft.type = types.of(path)
        if not draft.type and strict:
            types.refuse(draft)


class _Types:
    def __init__(self, drafts: Mapping[str, Draft]) -> None:
        self.drafts = drafts
        self.known: dict[str, str] = {}

    def refuse(self, draft: Draft) -> None:
        """Say why a draft has no type."""
        targets = self._targets(draft)
        if targets:
            self._refuse_reference(draft, targets[0])
        place = place_of(draft.statements[0]) if draft.statements else draft.path
        raise FormatError("The token has no type.", place=place, fix="Give it a $type.")

    def of(self, start: str) -> str:
        """A token's type: its own, else that of what it is an alias of, else its group's.

        Chains of any length are followed.
        """
        known = self.known
        work, inside = [start], set()
        while work:
            path = work[-1]
            draft = self.drafts.get(path) or self.drafts.get(f"{path}.$root")
            own_type = self._own_type(draft) if draft is not None else ""
            if path not in known and draft is not None and not own_type:
                inside.add(path)
                targets = self._targets(draft)
                own_type = next((known[target] for target in targets if known.get(target)), "")
                ahead = [
                    target for target in targets if target not in known and target not in inside
                ]
                if not own_type and ahead:
                    work.append(ahead[0])
                    continue
                own_type = own_type or self._group_type(draft)
            known.setdefault(path, own_type)
            inside.discard(path)
            work.pop()
        return known[start]

    def _own_type(self, draft: Draft) -> str:
        """The type that the token itself states; refused where it states two."""
        if draft.type:
            return draft.type
        stated = list(dict.fromkeys(s.node.own_type for s in draft.statements if s.node.own_type))
        if len(stated) > 1:
            raise FormatError(
                f"The token is a {stated[0]} in one place and a {stated[1]} in another.",
                place=place_of(draft.statements[-1]),
                fix="One token has one type in every mode.",
            )
        return stated[0] if stated else ""

    def _targets(self, draft: Draft) -> list[str]:
        """What a token is an alias of, in any mode or by inheritance."""
        targets = [reference_in(s.node.members) for s in draft.statements]
        return [target for target in (*targets, draft.inherits) if target]

    def _group_type(self, draft: Draft) -> str:
        return next((s.node.types[0] for s in draft.statements if s.node.types), "")

    def _refuse_reference(self, draft: Draft, target: str) -> None:
        """Say why an alias leads to no type: to nothing, or round in a circle."""
        chain = [draft.path]
        while target and target not in chain:
            aliased = self.drafts.get(target) or self.drafts.get(f"{target}.$root")
            place = place_of(draft.statements[0]) if draft.statements else draft.path
            if aliased is None:
                raise FormatError(
                    f"{{{target}}} does not exist.", place=place, fix=nearest(target, self.drafts)
                )
            chain.append(target)
            target = next(
                (t for s in aliased.statements if (t := reference_in(s.node.members))),
                aliased.inherits,
            )
        if target:
            start = chain.index(target)
            raise FormatError(
                "Circular reference: " + " → ".join([*chain[start:], target]) + ".",
                place=place_of(draft.statements[0]) if draft.statements else draft.path,
                fix="Give one of them a value of its own.",
            )
