"""What the page of the Stage shows."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Any
from urllib.parse import quote

from prism.formats.scene_css import PAINTS, STATES
from prism.model.document import Token
from prism.resolution.resolver import Theme
from prism.scenes import pairs, stage
from prism.scenes.commands import PIECES, token_at, type_of
from prism.scenes.markup import RunReading, SceneRead, readings
from prism.scenes.stage import Staged
from prism.vision.lens import LENSES, lens
from studio.rooms.frame import Frame
from studio.rooms.stage import address as addresses
from studio.rooms.stage import library
from studio.rooms.stage.address import PaneAsked, StageAddress
from studio.rooms.themes import axis_named, theme_text

StageFrame = Frame[StageAddress]
#: Tokens that are offered for a slot.
_MOST_OFFERED = 600
#: Every element of a scene that takes a slot or has a name, as the server counts them.
SELECTOR = ",".join(
    [
        "[data-part]",
        *(f"[data-{name}]" for name in (*PAINTS, "copy", "shown")),
        *(f"[data-{state}-{paint}]" for state in STATES for paint in PAINTS),
    ]
)


def _choices(frame: StageFrame) -> dict[str, Any]:
    """What can be chosen, whatever is shown."""
    of_project = library.of_project(frame.document)
    return {
        "scenes": [*library.SCENES, *of_project, library.BY_ID[library.CARD]],
        "pieces": PIECES,
        "judging": ("ink", "fill", "ground"),
        "looks": ("state", "lens", "severity", "rows", "across"),
        "axis_names": frame.analysis.axis_names,
        "widths": addresses.WIDTHS,
        "zooms": addresses.ZOOMS,
        "states": addresses.STATES,
        "lenses": LENSES,
        "selector": SELECTOR,
    }


def scene_id(frame: StageFrame) -> str:
    """The id of the scene of the address."""
    return library.find(frame.document, frame.address.scene).id


def moves_of(frame: StageFrame) -> dict[int, int]:
    """The elements of the scene of the address that stand in others."""
    return addresses.read_moves(addresses.of_scene(frame.address.moves, scene_id(frame)))


def scene_of(frame: StageFrame) -> SceneRead:
    """What is read off the scene of the address, with its parts where they were moved."""
    shipped = library.find(frame.document, frame.address.scene)
    moves = moves_of(frame)
    return library.scene_of(shipped, frame.document.name).moved(moves)


def staged_in(frame: StageFrame) -> list[Staged]:
    """The scene of the address in the theme of each of its panes."""
    analysis, scene = frame.analysis, scene_of(frame)
    zones = addresses.read_zones(analysis, addresses.of_scene(frame.address.zones, scene_id(frame)))
    shipped = library.find(frame.document, frame.address.scene)
    card = on_card(frame) if shipped.id == library.CARD else {}
    themes = (addresses.theme_of(analysis, frame.theme, pane) for pane in _asked(frame))
    return [Staged(analysis, scene, theme, zones, card) for theme in themes]


def theme_at(frame: StageFrame) -> Theme:
    """The theme of the element that the address points at; that of the page without one."""
    staged = staged_in(frame)
    here = staged[min(_number(frame.address.pane), len(staged) - 1)]
    place = _place(frame.address.at, here.scene)
    return here.theme_at(place) if place is not None else here.theme


def context(frame: StageFrame) -> dict[str, Any]:
    """Everything the template needs."""
    address, analysis = frame.address, frame.analysis
    shipped = library.find(frame.document, address.scene)
    asked = _asked(frame)
    staged = staged_in(frame)
    scene = staged[0].scene
    themes = [here.theme for here in staged]
    card = on_card(frame) if shipped.id == library.CARD else {}
    unlinked = stage.unlinked(analysis, scene)
    lit = stage.painted_by(analysis, address.light) if address.light else []
    if address.dock == "unlinked" and not address.light:
        lit = [slot for color in unlinked for slot in color.slots]
    return (
        _choices(frame)
        | {
            "card": card,
            "card_query": _card_query(card),
            "scene": shipped,
            "panes": [
                _pane(frame, shipped, *pane)
                for pane in zip(asked, staged, range(len(asked)), strict=True)
            ],
            "asked": addresses.panes_text(asked),
            "lens": lens(address.lens, _severity(address.severity)),
            "severity": f"{_severity(address.severity):g}",
            "lit": lit,
            "light": frame.document.token(address.light) if address.light else None,
            "unbound": [s for s in stage.unbound(analysis, scene) if s not in library.JUDGED],
            "unlinked": unlinked,
            "moves_json": json.dumps(list(moves_of(frame).items())),
            "texts": len(scene.runs),
        }
        | _pointed(frame, scene, staged)
        | _dock(frame, scene, staged, themes)
    )


def _pointed(frame: StageFrame, scene: SceneRead, staged: list[Staged]) -> dict[str, Any]:
    """The element that is pointed at, in the pane in which it is."""
    place = _place(frame.address.at, scene)
    which = min(_number(frame.address.pane), len(staged) - 1)
    here = staged[which]
    moves = moves_of(frame)
    return {
        "dock": "point" if place is not None else frame.address.dock or "texts",
        "at": place,
        "pointed_pane": which,
        "pointed": stage.pointed(here, place) if place is not None else None,
        "step": _steps(frame, place, scene),
        "zone_axes": _zone_axes(frame, here, place) if place is not None else [],
        "stands_in": _stands_in(scene, moves, place, here),
    }


def _dock(
    frame: StageFrame, scene: SceneRead, staged: list[Staged], themes: list[Theme]
) -> dict[str, Any]:
    """What the lists of the dock hold; only that of the open one is made."""
    open_dock = frame.address.dock or "texts"
    missing = pairs.missing(frame.analysis, scene)
    rows: list[RunReading] = []
    if open_dock == "texts":
        rows = readings(frame.resolver, scene.runs, staged[0].bindings, themes)
    return {
        "rows": rows,
        "bound": staged[0].bindings,
        "missing": missing,
        "slots": _slots(frame, scene) if open_dock == "slots" else [],
        "tree": staged[0].tree() if staged else [],
    }


def _asked(frame: StageFrame) -> list[PaneAsked]:
    """The panes: those of the address; else the theme and the next mode of the first axis; every two modes of two axes
    where they are laid out as a grid."""
    address, analysis = frame.address, frame.analysis
    axes = frame.document.axes
    if address.view == "grid" and axes:
        rows = axis_named(analysis, address.rows) or axes[0]
        across = axis_named(analysis, address.across) or (axes[1] if len(axes) > 1 else axes[0])
        return [
            PaneAsked(
                addresses.picks_text(analysis, {rows.key: row.key, across.key: column.key}.items())
            )
            for row in rows.modes[:5]
            for column in (across.modes[:5] if across is not rows else across.modes[:1])
        ]
    panes = addresses.read_panes(address.panes)
    if not panes:
        panes = [PaneAsked()]
        if frame.pinned is not None:
            picks = frame.resolver.picks(frame.pinned).items()
            panes.append(PaneAsked(addresses.picks_text(analysis, picks)))
        elif axes and len(axes[0].modes) > 1:
            place = (frame.theme[0] + 1) % len(axes[0].modes)
            mode = axes[0].modes[place].key
            panes.append(PaneAsked(addresses.picks_text(analysis, ((axes[0].key, mode),))))
    if address.view in ("wipe", "halves"):
        panes = (panes * 2)[:2] if len(panes) == 1 else panes[:2]
    return panes


def _pane(
    frame: StageFrame, shipped: library.Shown, asked: PaneAsked, staged: Staged, place: int
) -> dict[str, Any]:
    analysis = frame.analysis
    axes = frame.document.axes
    failing, known = staged.failing()
    fixed = addresses.picks_of(analysis, asked.modes)
    following = _following(frame, asked)
    width = asked.width if asked.width != "fit" or shipped.width != "phone" else "phone"
    return {
        "asked": asked,
        "place": place,
        "theme": theme_text(analysis, staged.theme),
        "named": [
            {
                "axis": axis,
                "mode": axis.modes[staged.theme[i]],
                "own": axis.key in fixed,
                "system": axis.key in following,
                "name": analysis.axis_names[axis.key],
                "modes": [(analysis.mode_names[axis.key, m.key], m) for m in axis.modes],
            }
            for i, axis in enumerate(axes)
        ],
        "failing": failing,
        "known": known,
        "width": width,
        "attributes": json.dumps(
            dict(stage.attributes_of(frame.document, staged.theme))
            | {f"data-{analysis.axis_names[key]}": "system" for key in following}
        ),
        "zones": json.dumps(staged.attributes()),
        "fixed": " ".join(f"data-{analysis.axis_names[key]}" for key in (*fixed, *following)),
        "words": ", ".join(axis.modes[staged.theme[i]].name for i, axis in enumerate(axes))
        or "the only theme",
    }


def _following(frame: StageFrame, asked: PaneAsked) -> list[str]:
    """The axes, by key, that a pane leaves to the preference of the system."""
    names = frame.analysis.axis_names
    parts = asked.modes.split(",")
    return [
        axis.key
        for axis in frame.document.axes
        if axis.follows and f"{names[axis.key]}:system" in parts
    ]


def on_card(frame: StageFrame) -> dict[str, Token]:
    """The tokens of the plain card: those of the address, else the texts and surfaces of the scheme."""
    document, guessed = frame.document, frame.analysis.bindings
    asked = (frame.address.ink, frame.address.fill, frame.address.ground)
    card: dict[str, Token] = {}
    for slot, path, instead in zip(library.JUDGED, asked, ("ink", "card", "page"), strict=True):
        token = token_at(document, path.strip()) if path else None
        token = token if token is not None and token.type == "color" else guessed.get(instead)
        if token is not None:
            card[slot] = token
    return card


def _card_query(card: dict[str, Token]) -> str:
    """The tokens of the card, for the style sheet of its frame."""
    return "".join(f"&{slot}={quote(token.key)}" for slot, token in card.items())


def _slots(frame: StageFrame, scene: SceneRead) -> list[dict[str, Any]]:
    """The slots of the scene, the unbound ones first, with the tokens that they can take."""
    bound = frame.analysis.bindings
    stored = dict(frame.document.scenes[0].bindings) if frame.document.scenes else {}
    rows = [
        {
            "slot": slot,
            "token": bound.get(slot),
            "own": slot in stored,
            "type": type_of(slot),
        }
        for slot in scene.slots
    ]
    return sorted(rows, key=lambda row: row["token"] is not None)


def offered(frame: StageFrame, slot: str) -> list[Token]:
    """The tokens that a slot can take, those of the meaning tiers first."""
    fitting = [token for token in frame.document.tokens if token.type == type_of(slot)]
    return sorted(fitting, key=lambda token: token.tier == "raw")[:_MOST_OFFERED]


def _stands_in(
    scene: SceneRead, moves: Mapping[int, int], place: int | None, staged: Staged
) -> dict[str, Any]:
    """Where the element that is pointed at stands, and the zones that it can be moved into."""
    if place is None:
        return {}
    zones = [row for row in staged.tree() if not scene.is_in(row.place, place)]
    return {"moved": moves.get(place), "zones": zones}


def _zone_axes(frame: StageFrame, staged: Staged, place: int) -> list[dict[str, Any]]:
    """The axes with the mode that a zone at an element pins, empty where it inherits."""
    zone = staged.zones.get(place)
    picks = dict(zone.picks) if zone is not None else {}
    names = frame.analysis.axis_names
    modes = frame.analysis.mode_names
    return [
        {
            "axis": axis,
            "name": names[axis.key],
            "pinned": picks.get(axis.key, ""),
            "modes": [(modes[axis.key, mode.key], mode) for mode in axis.modes],
        }
        for axis in frame.document.axes
    ]


def _steps(frame: StageFrame, place: int | None, scene: SceneRead) -> dict[str, str]:
    """The addresses of the element before and after."""
    last = len(scene.elements) - 1
    here = 0 if place is None else place
    return {
        "before": frame.query(at=str(max(here - 1, 0))),
        "after": frame.query(at=str(min(here + 1, last) if place is not None else 0)),
    }


def _place(written: str, scene: SceneRead) -> int | None:
    number = _number(written) if written else -1
    return number if written and 0 <= number < len(scene.elements) else None


def _number(written: str) -> int:
    return int(written) if written.isascii() and written.isdigit() else 0


def _severity(written: str) -> float:
    try:
        severity = float(written)
    except ValueError:
        return 1.0
    return round(severity, 1) if 0 <= severity <= 1 else 1.0
