"""The channels of color functions, and the spaces that colors are mixed in."""

from __future__ import annotations

#: Channels by function or color space: name, value of 100 %, and the scale of coloraide.
CHANNELS: dict[str, tuple[tuple[str, float, float], ...]] = {
    "rgb": (("r", 255, 1 / 255), ("g", 255, 1 / 255), ("b", 255, 1 / 255)),
    "hsl": (("h", 0, 1), ("s", 100, 0.01), ("l", 100, 0.01)),
    "hwb": (("h", 0, 1), ("w", 100, 0.01), ("b", 100, 0.01)),
    "lab": (("l", 100, 1), ("a", 125, 1), ("b", 125, 1)),
    "lch": (("l", 100, 1), ("c", 150, 1), ("h", 0, 1)),
    "oklab": (("l", 1, 1), ("a", 0.4, 1), ("b", 0.4, 1)),
    "oklch": (("l", 1, 1), ("c", 0.4, 1), ("h", 0, 1)),
    "rgb-space": (("r", 1, 1), ("g", 1, 1), ("b", 1, 1)),
    "xyz-space": (("x", 1, 1), ("y", 1, 1), ("z", 1, 1)),
}
RGB_SPACES = (
    "srgb", "srgb-linear", "display-p3", "display-p3-linear", "a98-rgb", "prophoto-rgb",
    "rec2020",
)  # fmt: skip
XYZ_SPACES = ("xyz", "xyz-d50", "xyz-d65")
POLAR = ("hsl", "hwb", "lch", "oklch")
MIX_SPACES = (*RGB_SPACES, *XYZ_SPACES, "lab", "oklab", *POLAR)
HUES = ("shorter", "longer", "increasing", "decreasing")


def channels_of(function: str, space_name: str) -> tuple[tuple[str, float, float], ...]:
    """The channels of a color function."""
    if function == "color":
        return CHANNELS["xyz-space" if space_name.startswith("xyz") else "rgb-space"]
    return CHANNELS[function]
