"""Whole numbers in what people type and addresses say."""

from typing import overload

_LONGEST = 9


@overload
def whole(text: str, default: int) -> int: ...
@overload
def whole(text: str, default: None = None) -> int | None: ...
def whole(text: str, default: int | None = None) -> int | None:
    """The whole number, zero or more, that ``text`` writes in plain digits; ``default`` otherwise.

    Digits of other scripts and raised ones, such as ``²``, are not taken for numbers.
    """
    plain = text.strip()
    return int(plain) if plain.isascii() and plain.isdigit() and len(plain) <= _LONGEST else default
