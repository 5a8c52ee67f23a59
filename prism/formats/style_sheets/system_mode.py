"""A mode that says ``system``: the page is then in the mode that a preference of the system asks for.

Style sheets written here have one for each axis that follows a preference; it is no mode of its own.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

from prism.formats.style_sheets.axis_of_sheet import AxisOfSheet, is_media
from prism.formats.style_sheets.page import Page

SYSTEM = "system"
#: Whether two pages say the same in every property that an axis, and one of preferences, has a say in.
Alike = Callable[[AxisOfSheet, AxisOfSheet, Page, Page], bool]


def fold_system(axes: list[AxisOfSheet], alike: Alike) -> None:
    """Let each axis with a mode called ``system`` follow the preference that it stands for: the modes of
    the preference become spellings of its own, and ``system`` is dropped."""
    for axis in [known for known in axes if SYSTEM in known.modes]:
        for media in [known for known in axes if known is not axis and is_media(known)]:
            meant = _meant(axis, media, axes, alike)
            if meant:
                for mode, own in meant.items():
                    axis.modes[own].extend(media.modes[mode])
                del axis.modes[SYSTEM]
                axes.remove(media)
                break


def _meant(
    axis: AxisOfSheet, media: AxisOfSheet, axes: Sequence[AxisOfSheet], alike: Alike
) -> dict[str, str]:
    """For each mode of a preference the mode of the axis that it asks for; empty where ``system`` says
    something of its own."""
    others = [known for known in axes if known is not axis and known is not media]
    around = [{}, *(other.facts(mode) for other in others for mode in other.modes)]
    meant = {}
    for mode in media.modes:
        asked = {**axis.facts(SYSTEM), **media.facts(mode)}
        first = [own for own in axis.modes if own == mode]
        for own in [*first, *(known for known in axis.modes if known not in (mode, SYSTEM))]:
            pages = [
                (Page({**asked, **facts}), Page({**axis.facts(own), **facts})) for facts in around
            ]
            if all(alike(axis, media, page, other) for page, other in pages):
                meant[mode] = own
                break
        else:
            return {}
    return meant
