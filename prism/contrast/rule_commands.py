"""What can be done to the rules that make pairings, and to the project's own words."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from prism.changes.outcome import Outcome
from prism.commands.command import Command, asked, command
from prism.commands.names import counted, short
from prism.contrast.requirements import read_ratio, read_use
from prism.errors import EditError
from prism.model.document import Document, Rule, Word
from prism.resolution.contrast import ENHANCED
from prism.roles import lexicon, rules
from prism.roles.patterns import fitting

_WORD = re.compile(r"[a-z]{2,40}\Z")


@command("pair-by-rule")
@dataclass(frozen=True, slots=True)
class PairByRule(Command):
    """Keep rules that make pairings of what each color is for; ``rules`` are ids, empty for all."""

    key: str = ""
    rules: tuple[str, ...] = ()

    def _added(self, document: Document) -> list[Rule]:
        for known in self.rules:
            if known not in rules.BY_ID:
                raise EditError(
                    f"“{known[:40]}” is not a rule.", fix=f"Rules: {', '.join(rules.BY_ID)}."
                )
        there = {rule.key for rule in document.rules}
        wanted = self.rules or tuple(rules.BY_ID)
        return [Rule(key, key) for key in dict.fromkeys(wanted) if key not in there]

    def outcome(self, document: Document) -> Outcome:
        added = self._added(document)
        if not added:
            raise EditError("All of these rules are kept already.")
        words = f"{counted(len(added), 'rule')} for pairings"
        if len(added) == 1:
            words = f"the rule “{rules.sentence(added[0])}”"
        after = replace(document, rules=(*document.rules, *added))
        return Outcome(after, sentence=f"Added {words}")


@command("pair-by-pattern")
@dataclass(frozen=True, slots=True)
class PairByPattern(Command):
    """Keep a rule that pairs each color that fits ``foreground`` with each that fits ``background``:
    paths in which ``*`` stands for any characters, as ``text.*``."""

    key: str
    foreground: str
    background: str
    use: str = "text"
    enhanced: bool = False

    def _rule(self) -> Rule:
        use = read_use(self.use)
        required = ENHANCED.get(use, 0.0) if self.enhanced else 0.0
        above, below = (side.strip().strip("{}") for side in (self.foreground, self.background))
        return Rule(self.key, "", above, below, use, required)

    def apply(self, document: Document) -> Document:
        rule = self._rule()
        for pattern in (rule.foreground, rule.background):
            if not fitting(document, pattern):
                raise EditError(
                    f"No color fits “{pattern[:80]}”.", fix="Write a path such as text.*."
                )
        if any(replace(known, key=rule.key) == rule for known in document.rules):
            raise EditError("This rule is kept already.")
        made = rules.pairings(document, {}, [rule])
        if len(made) >= rules.MOST:
            raise EditError(
                f"That would be more than {rules.MOST:,} pairings.", fix="Write a narrower pattern."
            )
        return replace(document, rules=(*document.rules, rule))

    def sentence(self, before: Document) -> str:
        return f"Added the rule {short(self.foreground)} on {short(self.background)}"


class _OfRule(Command):
    """A command about one rule."""

    rule: str

    def _found(self, document: Document) -> Rule:
        for rule in document.rules:
            if rule.key == self.rule:
                return rule
        raise EditError("That rule is no longer there.")


@command("require-by-rule")
@dataclass(frozen=True)
class RequireByRule(_OfRule):
    """Say which ratio the pairings of a rule must reach; 0 takes what their use asks for."""

    rule: str
    required: float = asked("each needs at least")

    def apply(self, document: Document) -> Document:
        changed = replace(self._found(document), required=read_ratio(self.required))
        return replace(
            document,
            rules=tuple(changed if rule.key == self.rule else rule for rule in document.rules),
        )

    def sentence(self, before: Document) -> str:
        words = short(rules.sentence(self._found(before)))
        needed = f"{self.required:g}" if self.required else "what its use asks for"
        return f"Set the ratio for “{words}” to {needed}"


@command("remove-rule")
@dataclass(frozen=True)
class RemoveRule(_OfRule):
    """Take a rule out, and the pairings it makes with it."""

    rule: str

    def apply(self, document: Document) -> Document:
        gone = self._found(document)
        return replace(document, rules=tuple(rule for rule in document.rules if rule is not gone))

    def sentence(self, before: Document) -> str:
        return f"Removed the rule “{short(rules.sentence(self._found(before)))}”"


@command("add-word")
@dataclass(frozen=True, slots=True)
class AddWord(Command):
    """Say what a word of the project's own means in the names of tokens: one of the meanings of the
    lexicon, as ``surface``. A word that is there gets the other meaning."""

    word: str = asked("Word")
    meaning: str = asked("means")

    @property
    def _word(self) -> str:
        words = lexicon.words_of(self.word)
        if len(words) != 1 or not _WORD.match(words[0]):
            raise EditError(
                f"“{self.word.strip()[:60]}” is not one word.",
                fix="Write one word of letters, as it stands in names.",
            )
        return words[0]

    def apply(self, document: Document) -> Document:
        if self.meaning not in lexicon.names():
            raise EditError(
                f"“{self.meaning[:40]}” is not a meaning.",
                fix=f"Meanings: {', '.join(lexicon.names())}.",
            )
        word = Word(self._word, self.meaning)
        if word in document.words:
            raise EditError(f"“{word.key}” means {word.meaning} already.")
        rest = tuple(known for known in document.words if known.key != word.key)
        return replace(document, words=(*rest, word))

    def sentence(self, before: Document) -> str:
        return f"Added the word “{self._word}”, which means {self.meaning}"


@command("answer-words")
@dataclass(frozen=True, slots=True)
class AnswerWords(Command):
    """Say what words in the names of tokens mean, all of them the same: one of the meanings of the lexicon, as
    ``surface``; ``name`` for words that say whose a color is, and ``nothing`` for those that say nothing."""

    words: tuple[str, ...]
    meaning: str = asked("Something else")

    def apply(self, document: Document) -> Document:
        if not self.words:
            raise EditError("No word is answered.", fix="Load the page again.")
        before = document
        for word in dict.fromkeys(self.words):
            if Word(word, self.meaning) not in document.words:
                document = AddWord(word, self.meaning).apply(document)
        if document is before:
            raise EditError("That has been answered already.")
        return document

    def sentence(self, before: Document) -> str:
        first, *rest = (f"“{short(word)}”" for word in self.words)
        more = f" and {counted(len(rest), 'more word')}" if rest else ""
        answer = "names of things" if self.meaning == "name" else self.meaning
        return f"Answered {first}{more}: {answer}"


@command("use-words")
@dataclass(frozen=True, slots=True)
class UseWords(Command):
    """Add words with their meanings, each as ``slate surface``, that a person has said in another project."""

    words: tuple[str, ...]

    def apply(self, document: Document) -> Document:
        if not self.words:
            raise EditError("There is no word to use.", fix="Load the page again.")
        for pair in self.words:
            word, _, meaning = pair.partition(" ")
            if not any(known.key == word for known in document.words):
                document = AddWord(word, meaning).apply(document)
        return document

    def sentence(self, before: Document) -> str:
        return f"Added {len(self.words)} of your words"


@command("remove-word")
@dataclass(frozen=True, slots=True)
class RemoveWord(Command):
    """Take a word of the project's own out."""

    word: str

    def apply(self, document: Document) -> Document:
        rest = tuple(known for known in document.words if known.key != self.word)
        if len(rest) == len(document.words):
            raise EditError("That word is no longer there.")
        return replace(document, words=rest)

    def sentence(self, before: Document) -> str:
        return f"Removed the word “{short(self.word)}”"
