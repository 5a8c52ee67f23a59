"""Style sheets in: read as a browser reads them."""

from __future__ import annotations

from prism.formats.style_sheets.reader import read, read_together

__all__ = ["read", "read_together"]
