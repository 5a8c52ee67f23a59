"""What a document that is read may hold, the same for every format."""

from __future__ import annotations

MAX_TOKENS = 50_000
MAX_VALUES = 250_000
MAX_AXES = 16
#: Levels that objects, rules, blocks and functions may lie in one another.
MAX_NESTING = 200
#: References one after the other, from a token to the one that holds a value.
MAX_CHAIN = 1_000
