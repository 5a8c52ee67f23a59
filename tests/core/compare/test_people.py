"""Several people in one document: what they store together is whole, and nothing is lost."""

import random
from dataclasses import dataclass, field

from django.test import SimpleTestCase
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule

from prism.compare.diff import apply as applied
from prism.compare.diff import diff, diff_tables, inverse
from prism.compare.merge import LISTS, merge
from prism.compare.rows import flatten
from prism.expressions.values import decode, encode, rewrite
from prism.model.document import shown_path
from prism.model.whole import flaws
from prism.resolution.current import resolver_of
from tests import CHANCE
from tests.builders import counter_keys
from tests.edits import edited, start


@dataclass
class Entry:
    """One stored change: who made it, whether it is an edit, what it reverts."""

    who: int
    before: object
    after: object
    reverts: object = None
    undone: bool = False
    latest: object = field(default=None)


class People(RuleBasedStateMachine):
    """Three writers, each free to work from an older revision, to undo and to redo."""

    def __init__(self):
        super().__init__()
        self.documents = [start()]
        self.entries = []
        self.new_key = counter_keys("n")

    @property
    def now(self):
        return self.documents[-1]

    def store(self, base, mine, entry):
        merged = merge(base, mine, self.now)
        if merged.clashes:
            for clash in merged.clashes:
                assert clash.sentence.endswith("."), clash
                assert clash.yours, clash
                assert clash.others, clash
            return None
        check_nothing_lost(base, mine, self.now, merged.document)
        plain = diff_tables(flatten(self.now), flatten(merged.document))
        assert {*map(str, diff(self.now, merged.document))} == {*map(str, plain)}
        if merged.document != self.now:
            self.documents.append(merged.document)
            self.entries.append(entry)
        return merged.document

    @rule(who=st.integers(0, 2), seed=st.integers(0, 2**32), back=st.integers(0, 5))
    def write(self, who, seed, back):
        base = self.documents[max(len(self.documents) - 1 - back, 0)]
        mine = edited(random.Random(seed), base, self.new_key)
        before = self.now
        if self.store(base, mine, entry := Entry(who, before, None)) is not None:
            entry.after = self.now
            for one in self.entries:
                if one.who == who and one is not entry and one.undone:
                    one.undone = None  # a new edit ends what could be done again

    @rule(who=st.integers(0, 2), undo=st.booleans())
    def swing(self, who, undo):
        mine = [e for e in self.entries if e.who == who and e.reverts is None]
        open_ = [e for e in mine if e.undone is (not undo)]
        if not open_:
            return
        entry = open_[-1] if undo else open_[0]
        latest = entry.latest or entry
        reverted = applied(latest.after, inverse(diff(latest.before, latest.after)))
        before, back = self.now, Entry(who, None, None, reverts=entry)
        if self.store(latest.after, reverted, back) is not None:
            back.before, back.after = before, self.now
            entry.undone, entry.latest = undo, back

    @invariant()
    def whole(self):
        assert flaws(self.now) == [], flaws(self.now)

    @invariant()
    def nothing_broken(self):
        resolver = resolver_of(self.now)
        for token in self.now.tokens:
            for theme in resolver.themes(resolver.influence(token.key)):
                answer = resolver.resolve(token.key, theme)
                assert not answer.broken or answer.passed_on, (token.path, answer.broken)
        theme = resolver.default_theme
        assert len(theme) == len(self.now.axes)


def rows_by_key(document):
    """The rows of a document, with every reference turned to the key of the token it names."""
    tables = flatten(document)
    keys = {token.path: token.key for token in document.tokens}
    keys |= {shown_path(path): key for path, key in keys.items()}
    for full, row in list(tables.rows["value"].items()):
        owner = document.token(full.split(" ", 1)[0])
        text = encode(rewrite(decode(row["text"]), owner.type, keys))
        tables.rows["value"][full] = {"text": text}
    return tables.rows


def check_nothing_lost(base, mine, theirs, result):
    """Every field of every row is what the side made it that changed it (three-way merge)."""
    old, here, there, now = (rows_by_key(one) for one in (base, mine, theirs, result))
    for kind in old:
        for key in {*old[kind], *here[kind], *there[kind], *now[kind]}:
            was, mine_, theirs_, kept = (rows[kind].get(key) for rows in (old, here, there, now))
            if mine_ == was:
                assert kept == theirs_, (kind, key, was, mine_, theirs_, kept)
            elif theirs_ in (was, mine_):
                assert kept == mine_, (kind, key, was, mine_, theirs_, kept)
            else:
                for name in kept:
                    sides = [(row or {}).get(name) for row in (was, mine_, theirs_)]
                    wanted = sides[2] if sides[1] == sides[0] else sides[1]
                    if (kind, name) in LISTS and None not in sides and sides[2] != sides[0]:
                        before, ours, others = map(set, sides)
                        both = (others & ours) | (others - before) | (ours - before)
                        assert set(kept[name]) == both, (kind, key, name, sides, kept[name])
                        assert len(kept[name]) == len(both)
                        continue
                    assert kept[name] == wanted, (kind, key, name, sides, kept[name])


class PeopleTests(SimpleTestCase):
    def test_thousands_of_steps_of_three_writers(self):
        People.TestCase.settings = settings(
            max_examples=200 if CHANCE else 60,
            stateful_step_count=100,
            deadline=None,
            derandomize=True,
        )
        People.TestCase("runTest").runTest()
