"""What an edit of many things came to."""

from __future__ import annotations

from dataclasses import dataclass

from prism.model.document import Document, shown_path

_MOST_NAMED = 6


@dataclass(frozen=True, slots=True)
class Outcome:
    """A document after an edit: how many values or tokens changed, what was skipped, by path or in words, and what was
    done, in the past tense, for the journal."""

    document: Document
    changed: int = 0
    skipped: tuple[str, ...] = ()
    sentence: str = ""

    @property
    def skipped_words(self) -> str:
        """What was skipped, in a sentence; empty where nothing was."""
        if not self.skipped:
            return ""
        shown = ", ".join(shown_path(path) for path in self.skipped[:_MOST_NAMED])
        more = len(self.skipped) - _MOST_NAMED
        return f"Skipped: {shown}{f' and {more} more' if more > 0 else ''}."
