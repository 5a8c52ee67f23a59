"""The text of a file, whatever its format."""

from __future__ import annotations

from collections.abc import Sequence

from prism.errors import FormatError
from prism.formats.limits import MAX_BYTES


def without_comments(text: str, marks: Sequence[tuple[str, str]] = (("/*", "*/"),)) -> str:
    """A text with each comment as a blank and its line ends; ``marks`` open and close comments.

    What is opened and never closed is none, and is looked for once.
    """
    kept: list[str] = []
    start = 0
    ahead = {mark: text.find(mark[0]) for mark in marks}
    while found := [(place, mark) for mark, place in ahead.items() if place >= 0]:
        place, mark = min(found)
        end = text.find(mark[1], place + len(mark[0]))
        if end < 0:
            del ahead[mark]
            continue
        lines = text.count("\n", place, end)
        kept += [text[start:place], "\n" * lines or " "]
        start = end + len(mark[1])
        for other, known in ahead.items():
            if 0 <= known < start:
                ahead[other] = text.find(other[0], start)
    return "".join([*kept, text[start:]])


def decoded(data: bytes, file: str, fix: str = "") -> str:
    """``data`` as UTF-8 text, without a byte order mark.

    Raises ``FormatError`` naming ``file`` for more than ``MAX_BYTES`` bytes, with what to do about
    it in ``fix``, and for anything that is not UTF-8.
    """
    if len(data) > MAX_BYTES:
        raise FormatError(
            f"The file has {len(data) / 1e6:.1f} MB; at most {MAX_BYTES / 1e6:.1f} MB are read.",
            place=file,
            fix=fix,
        )
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise FormatError(
            "The file is not UTF-8 text.", place=f"{file}, byte {error.start}"
        ) from None
