"""Telling the format of a file from its name and its first bytes."""

from __future__ import annotations

import re

from prism.formats import strict_json


def kind_of(name: str, data: bytes) -> str:
    """The format of a file: ``tokens``, ``json``, ``css``, ``gpl``, ``svg`` or ``csv``."""
    lower = name.lower()
    for ending in (".css", ".gpl", ".svg", ".csv"):
        if lower.endswith(ending):
            return ending[1:]
    start = data[:4000].lstrip(b"\xef\xbb\xbf \t\r\n")
    if lower.endswith((".tokens.json", ".resolver.json")):
        return "tokens"
    if lower.endswith(".json") or start.startswith(b"{"):
        return "tokens" if _design_tokens(data, name) else "json"
    if start.startswith(b"GIMP Palette"):
        return "gpl"
    if start.startswith(b"<"):
        return "svg"
    return "css" if re.search(rb"\{[^}]*--", data) else "csv"


def _design_tokens(data: bytes, name: str) -> bool:
    work: list[object] = [strict_json.read(data, name)]
    while work:
        part = work.pop()
        if isinstance(part, dict):
            if "$value" in part or "$ref" in part or "resolutionOrder" in part:
                return True
            work.extend(part.values())
    return False
