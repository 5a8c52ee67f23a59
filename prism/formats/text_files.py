"""The text of a file, whatever its format."""

from __future__ import annotations

from prism.errors import FormatError
from prism.formats.limits import MAX_BYTES


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
