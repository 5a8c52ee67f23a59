"""What every template may use."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest

CHROMES = ("light", "mid", "dark")


def chrome(request: HttpRequest) -> dict[str, Any]:
    """The chrome that was chosen; empty follows the system."""
    chosen = request.COOKIES.get("chrome", "")
    return {
        "chrome": chosen if chosen in CHROMES else "",
        "single_keys": request.COOKIES.get("keys", "on") != "off",
        "demo": getattr(request, "demo", False),
    }
