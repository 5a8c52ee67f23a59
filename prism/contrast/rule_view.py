"""Rules as Checks shows them: those that are kept, those on offer, and what could not be judged."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.contrast.presumed import presumed, why
from prism.contrast.unplaced import unplaced_of
from prism.model.document import Pairing, Rule, shown_path
from prism.resolution.contrast import REQUIRED
from prism.roles.rules import BY_ID, RULES, is_shown, sentence


@dataclass(frozen=True, slots=True)
class KeptRule:
    """A rule that is kept, in words, how many pairings it makes, and the ratio they must reach."""

    rule: Rule
    sentence: str
    count: int
    required: float


@dataclass(frozen=True, slots=True)
class Offer:
    """How many pairings the rules that are not kept would add, for each its id, sentence and how many
    it would, and the paths of colors that are in no pairing even then."""

    count: int
    rules: tuple[tuple[str, str, int], ...]
    unpaired: tuple[str, ...]


def offer(analysis: Analysis) -> Offer:
    """What the rules would add to a document."""
    counted = Counter(by_rule.rule for by_rule in analysis.offered)
    listed = tuple((rule.id, rule.sentence, counted[rule.id]) for rule in RULES if counted[rule.id])
    made = [by_rule.pairing for by_rule in analysis.offered]
    pairings = [*analysis.paired.pairings, *made]
    left = unplaced_of(analysis.document, analysis.roles, pairings)
    return Offer(counted.total(), listed, tuple(shown_path(token.path) for token in left))


def kept(analysis: Analysis) -> list[KeptRule]:
    """The rules of a document, in order."""
    counted = Counter(by_rule.rule for by_rule in analysis.by_rule)
    return [
        KeptRule(rule, sentence(rule), counted[rule.key], _required(rule))
        for rule in analysis.document.rules
    ]


def _required(rule: Rule) -> float:
    known = BY_ID.get(rule.by_role)
    return rule.required or REQUIRED[known.use if known else rule.use]


def names(analysis: Analysis) -> dict[str, str]:
    """The sentence of the rule that made a pairing, by the pairing's key."""
    sentences = {rule.key: sentence(rule) for rule in analysis.document.rules}
    return {made.pairing.key: sentences[made.rule] for made in analysis.by_rule}


def source(analysis: Analysis, opened: Pairing) -> str:
    """Where a pairing comes from, in words."""
    rule = names(analysis).get(opened.key)
    if rule:
        doubt = why(analysis.document, opened, analysis.roles)
        by_rule = f"by the rule: {rule}"
        return f"{by_rule}; {doubt}" if doubt and opened.key in analysis.once(presumed) else by_rule
    return "set together in the imported style sheet" if is_shown(opened) else "added by hand"


def pairing(analysis: Analysis, key: str) -> Pairing | None:
    """A pairing of the document or of its rules, or None."""
    return analysis.paired.pairing(key) if key else None
