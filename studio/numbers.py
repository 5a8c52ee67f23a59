"""Whole numbers in what people type and addresses say."""

_LONGEST = 9


def whole(text, default=None):
    """The whole number, zero or more, that ``text`` writes in plain digits; ``default`` otherwise.

    Digits of other scripts and raised ones, such as ``²``, are not taken for numbers.
    """
    plain = text.strip()
    return int(plain) if plain.isascii() and plain.isdigit() and len(plain) <= _LONGEST else default
