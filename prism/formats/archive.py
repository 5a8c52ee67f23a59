"""Zip archives from outside: names, sizes and counts are checked before a byte is unpacked."""

from __future__ import annotations

import io
import posixpath
import stat
import zipfile
import zlib
from collections.abc import Mapping

from prism.errors import FormatError

MAX_FILES = 300
MAX_UNPACKED = 24 * 1024 * 1024
_TOO_MANY = f"The archive holds more than {MAX_FILES} files."
_ENTRY = b"PK\x01\x02"
_TOO_MUCH = f"The archive unpacks to more than {MAX_UNPACKED // 2**20} MB."
_SKIPPED_FOLDERS = ("__MACOSX/",)


def read(data: bytes, name: str) -> tuple[dict[str, bytes], list[str]]:
    """The ``.json`` files of an archive by their path inside, and the names skipped.

    Raises ``FormatError`` for a path that leaves the archive's folder, a link, a password, or
    more than ``MAX_FILES`` files or ``MAX_UNPACKED`` bytes.
    """
    if data.count(_ENTRY) > 4 * MAX_FILES:  # each costs half a kilobyte before it can be counted
        raise FormatError(_TOO_MANY, place=name)
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            return _unpack(archive, name)
    except (
        zipfile.BadZipFile,
        zipfile.LargeZipFile,
        zlib.error,
        EOFError,
        NotImplementedError,
        OSError,
        UnicodeError,
        ValueError,
    ):
        raise FormatError(
            "The file is not a zip archive that can be read.",
            place=name,
            fix="Make the archive again.",
        ) from None


def _unpack(archive: zipfile.ZipFile, name: str) -> tuple[dict[str, bytes], list[str]]:
    members = [info for info in archive.infolist() if not info.is_dir()]
    if len(members) > MAX_FILES:
        raise FormatError(_TOO_MANY, place=name)
    files: dict[str, bytes] = {}
    skipped: list[str] = []
    left = MAX_UNPACKED
    for info in members:
        path = safe_path(info.filename, name)
        if stat.S_ISLNK(info.external_attr >> 16):
            raise FormatError("The archive contains a link.", place=f"{name}, {path}")
        if info.flag_bits & 0x1:
            raise FormatError("The archive has a password.", place=name)
        if info.compress_type not in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED):
            raise FormatError(
                "The compression of this archive is not supported.",
                place=f"{name}, {path}",
                fix="Make an ordinary zip file.",
            )
        if not path.endswith(".json") or path.startswith(_SKIPPED_FOLDERS):
            skipped.append(path)
            continue
        if info.file_size > left:
            raise FormatError(_TOO_MUCH, place=name)
        if path in files:
            raise FormatError("The archive contains this name twice.", place=f"{name}, {path}")
        with archive.open(info) as member:
            content = member.read(left + 1)
        left -= len(content)
        if left < 0:
            raise FormatError(_TOO_MUCH, place=name)
        files[path] = content
    return _without_common_folder(files), skipped


def safe_path(path: str, name: str) -> str:
    """``path`` normalized; ``FormatError`` where it would leave the archive's folder."""
    plain = posixpath.normpath(path.replace("\\", "/"))
    climbs = plain == ".." or plain.startswith(("../", "/")) or ":" in plain.split("/")[0]
    if climbs or "\0" in path:
        raise FormatError(
            f"“{path[:80]}” points outside the archive.",
            place=name,
            fix="Nothing was imported.",
        )
    return plain


def _without_common_folder(files: Mapping[str, bytes]) -> dict[str, bytes]:
    """Paths without the one folder that all of them lie in."""
    tops = {path.split("/", 1)[0] for path in files if "/" in path}
    if len(tops) == 1 and all("/" in path for path in files):
        return {path.split("/", 1)[1]: content for path, content in files.items()}
    return dict(files)


def write(files: Mapping[str, str]) -> bytes:
    """An archive of text files with fixed times, so that equal files give equal bytes."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        for path, text in files.items():
            info = zipfile.ZipInfo(path, (2000, 1, 1, 0, 0, 0))
            info.external_attr = 0o644 << 16
            info.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(info, text)
    return buffer.getvalue()
