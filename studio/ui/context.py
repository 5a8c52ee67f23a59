"""What every template may use."""

CHROMES = ("light", "mid", "dark")


def chrome(request):
    """The chrome that was chosen; empty follows the system."""
    chosen = request.COOKIES.get("chrome", "")
    return {
        "chrome": chosen if chosen in CHROMES else "",
        "single_keys": request.COOKIES.get("keys", "on") != "off",
        "demo": getattr(request, "demo", False),
    }
