"""Words that people keep for their other projects: what they mean in the names of colors."""

from __future__ import annotations

from collections.abc import Iterable

from django.contrib.auth.models import User
from django.db import transaction

from prism.errors import PrismError
from prism.model.document import Word
from studio.store.word_models import OwnWord

#: Words that a person may keep.
MOST = 500
#: Letters of a word that is kept; no word that is typed is longer.
LONGEST = 60


def of(person: User) -> tuple[Word, ...]:
    """What a person has kept, the oldest first."""
    rows = OwnWord.objects.filter(person=person).values_list("key", "meaning")
    return tuple(Word(key, meaning) for key, meaning in rows)


@transaction.atomic
def keep(person: User, words: Iterable[Word]) -> int:
    """Keep words; one that is kept with another meaning gets this one. Returns how many there are then. Raises
    ``PrismError`` beyond ``MOST``."""
    for word in (word for word in words if len(word.key) <= LONGEST):
        OwnWord.objects.update_or_create(
            person=person, key=word.key, defaults={"meaning": word.meaning}
        )
    count = OwnWord.objects.filter(person=person).count()
    if count > MOST:
        raise PrismError(f"{count} words are too many to keep; at most {MOST}.")
    return count


def forget(person: User, words: Iterable[Word]) -> None:
    """Keep these words no more."""
    OwnWord.objects.filter(person=person, key__in=[word.key for word in words]).delete()
