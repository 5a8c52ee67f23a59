"""What the address of the Stage says: the scene, its panes, zones, lens, and what is pointed at."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.resolution.resolver import Theme
from prism.scenes.stage import Zone
from prism.vision.lens import LENSES
from studio.rooms.address import Address, choice, text

MOST_PANES, MOST_ZONES = 6, 24
WIDTHS = ("fit", "phone", "tablet", "desktop")
ZOOMS = ("50", "75", "100", "125")
STATES = ("hover", "pressed", "selected", "focus", "disabled", "error")
DOCKS = ("texts", "slots", "unlinked", "pairings", "zones", "pieces")


@dataclass(frozen=True, slots=True)
class PaneAsked:
    """A pane: the modes in which it differs from the theme that is looked at, as a theme is written, its width and its
    zoom in percent."""

    modes: str = ""
    width: str = "fit"
    zoom: str = "100"

    @property
    def text(self) -> str:
        """As it stands in an address."""
        return "~".join((self.modes, self.width, self.zoom))


@dataclass(frozen=True)
class StageAddress(Address):
    """The scene by id, panes and zones as they are written, how panes are laid out, lens and severity, the state that
    all parts are in, the element that is pointed at and its pane, the token that is lit up, which elements stand in
    which others, the dock, and the paths of the tokens that the plain card takes."""

    scene: str = text(60)
    panes: str = text(1200)
    view: str = choice("wipe", "halves", "grid")
    rows: str = text(200)
    across: str = text(200)
    lens: str = choice(*(name for name, _ in LENSES))
    severity: str = text(4)
    state: str = choice(*STATES)
    at: str = text(5)
    pane: str = text(2)
    light: str = text(200)
    zones: str = text(3000)
    moves: str = text(800)
    dock: str = choice(*DOCKS)
    ink: str = text(300)
    fill: str = text(300)
    ground: str = text(300)


def of_scene(written: str, scene: str) -> str:
    """What an address says of one scene, as its zones: ``departures!7=appearance:dark|wallet!3=status:delayed``. What
    names no scene is of whichever is shown."""
    for part in written.split("|"):
        name, named, own = part.partition("!")
        if not named or name == scene:
            return own if named else part
    return ""


def with_scene(written: str, scene: str, own: str) -> str:
    """The same with something else said of one scene; what is said of others stays."""
    parts = [part for part in written.split("|") if "!" in part and part.partition("!")[0] != scene]
    return "|".join([*parts, *([f"{scene}!{own}"] if own else [])])


def read_panes(written: str) -> list[PaneAsked]:
    """The panes of an address."""
    panes = []
    for part in written.split("|")[:MOST_PANES] if written else []:
        modes, _, rest = part.partition("~")
        width, _, zoom = rest.partition("~")
        panes.append(
            PaneAsked(
                modes[:300],
                width if width in WIDTHS else "fit",
                zoom if zoom in ZOOMS else "100",
            )
        )
    return panes


def panes_text(panes: Iterable[PaneAsked]) -> str:
    """Panes as they stand in an address."""
    return "|".join(pane.text for pane in panes)


def picks_of(analysis: Analysis, written: str) -> dict[str, str]:
    """The modes that a text like ``appearance:dark,brand:osprelle`` names, by keys; what is unknown is skipped."""
    axes = {name: key for key, name in analysis.axis_names.items()}
    modes = {(axis, name): mode for (axis, mode), name in analysis.mode_names.items()}
    picks = {}
    for part in written.split(","):
        axis, _, name = part.partition(":")
        key = axes.get(axis, "")
        if (key, name) in modes:
            picks[key] = modes[key, name]
    return picks


def picks_text(analysis: Analysis, picks: Iterable[tuple[str, str]]) -> str:
    """Modes as they stand in an address."""
    axes, modes = analysis.axis_names, analysis.mode_names
    return ",".join(f"{axes[axis]}:{modes[axis, mode]}" for axis, mode in picks)


def theme_of(analysis: Analysis, theme: Theme, pane: PaneAsked) -> Theme:
    """The theme of a pane."""
    resolver = analysis.resolver
    return resolver.theme(resolver.picks(theme) | picks_of(analysis, pane.modes))


def read_zones(analysis: Analysis, written: str) -> list[Zone]:
    """The zones of an address: ``7=appearance:dark;12=status:delayed``."""
    zones = []
    for part in written.split(";")[:MOST_ZONES] if written else []:
        place, _, modes = part.partition("=")
        if place.isascii() and place.isdigit():
            zones.append(Zone(int(place), tuple(picks_of(analysis, modes).items())))
    return zones


def zones_text(analysis: Analysis, zones: Sequence[Zone]) -> str:
    """Zones as they stand in an address."""
    return ";".join(f"{zone.place}={picks_text(analysis, zone.picks)}" for zone in zones)


def read_moves(written: str) -> dict[int, int]:
    """The elements of an address that stand in others, by place: ``20-5,31-7``."""
    pairs = (part.partition("-") for part in written.split(",")[:MOST_ZONES])
    return {int(a): int(b) for a, _, b in pairs if _is_place(a) and _is_place(b)}


def moves_text(moves: Mapping[int, int]) -> str:
    """Moved elements as they stand in an address."""
    return ",".join(f"{place}-{into}" for place, into in moves.items())


def _is_place(written: str) -> bool:
    return written.isascii() and written.isdigit() and len(written) < 5
