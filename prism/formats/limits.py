"""What a document that is read may hold, the same for every format."""

from __future__ import annotations

#: Bytes of one file.
MAX_BYTES = 8 * 1024 * 1024
MAX_TOKENS = 50_000
MAX_VALUES = 250_000
MAX_AXES = 16
#: Words, numbers and marks of a style sheet.
MAX_PARTS = 1_000_000
#: Characters that the values of a style sheet come to with all that ``var()`` puts in.
MAX_PUT_IN = 2_000_000
#: Levels that objects, rules, blocks and functions may lie in one another.
MAX_NESTING = 200
