"""What the scenes say: in the made-up world of the demo, and in plain words anywhere else."""

from __future__ import annotations

from typing import Any

DEMO = "Quillhaven"

_ROWS = (
    ("21:50", "go", "On time"),
    ("21:55", "wait", "12 min late"),
    ("22:04", "go", "On time"),
    ("22:10", "go", "On time"),
    ("22:15", "stop", "Cancelled"),
    ("22:31", "note", "New stop"),
)
_DEMO_ROWS = (
    ("Saltmarsh Halt", "by Reed Mill", "Platform 2"),
    ("Gannet Isle", "direct", "Quay 6"),
    ("Copper Row", "by Tide Lane", "Stop C"),
    ("Low Fell", "sleeper, 7 berths", "Platform 4"),
    ("Merrow Point", "by Gannet Isle", "Quay 2"),
    ("Ropewalk", "direct", "Stop A"),
)
_PLAIN_ROWS = (
    ("North side", "by the park", "Door 2"),
    ("Old bridge", "direct", "Door 6"),
    ("Market", "by the mill", "Door C"),
    ("Hill top", "night service", "Door 4"),
    ("West gate", "by Old bridge", "Door 1"),
    ("South side", "direct", "Door A"),
)


def _rows(places: tuple[tuple[str, str, str], ...]) -> list[dict[str, str]]:
    return [
        {"time": time, "to": to, "by": by, "from": start, "slot": slot, "status": status}
        for (time, slot, status), (to, by, start) in zip(_ROWS, places, strict=True)
    ]


def _seats() -> list[dict[str, str]]:
    states = {
        "2C": "yours",
        "2D": "yours",
        "1A": "taken",
        "1B": "taken",
        "3F": "taken",
        "2A": "taken",
    }
    names = [f"{row}{letter}" for row in (1, 2, 3) for letter in "ABCDEFGH"]
    return [{"name": name, "state": states.get(name, "free")} for name in names]


_SHARED: dict[str, Any] = {
    "seats": _seats(),
    "yours": "filled",
    "month": "November",
    "tiles": [
        {"what": "Under way", "count": "18", "slot": "go", "than": "all staffed"},
        {"what": "Late", "count": "3", "slot": "wait", "than": "one more than at nine"},
        {"what": "Cancelled", "count": "1", "slot": "stop", "than": "fog"},
        {"what": "On board", "count": "2,140", "slot": "muted", "than": "of 3,600 places"},
    ],
}
_DEMO: dict[str, Any] = _SHARED | {
    "here": "Harbor Stairs",
    "line": "Night rail, ferries and trams from one quay.",
    "notice": "Fog on the outer reach",
    "notice_more": "Ferries to Gannet Isle leave from Quay 6 until midnight.",
    "ticket": "Sleeper 22:10, coach 3, berth 14",
    "night": "one night",
    "rows": _rows(_DEMO_ROWS),
    "cabins": [
        {"name": "Seat", "about": "Reclining, by a window", "price": "29.00", "chosen": False},
        {
            "name": "Berth for two",
            "about": "Door that locks, linen, tea",
            "price": "62.00",
            "chosen": True,
        },
        {"name": "Cabin alone", "about": "Basin and desk", "price": "", "gone": True},
    ],
    "series": ("night rail", "ferries", "trams"),
    "services": [
        {
            "name": "Sleeper 22:10",
            "place": "Low Fell viaduct",
            "load": "86 %",
            "slot": "go",
            "status": "On time",
        },
        {
            "name": "Ferry Osprey 2",
            "place": "Gannet Sound",
            "load": "41 %",
            "slot": "wait",
            "status": "12 min late",
        },
        {
            "name": "Tram 7",
            "place": "Copper Row",
            "load": "63 %",
            "slot": "go",
            "status": "On time",
        },
        {
            "name": "Ferry Osprey 5",
            "place": "in harbor",
            "load": "0 %",
            "slot": "stop",
            "status": "Cancelled",
        },
    ],
    "essay": (
        "Since noon the fog has stood between the breakwater and Gannet Isle. The harbor pilot lets one ship at a "
        "time through the narrows, so that ferries leave from Quay 6 and take the long way round.",
        "Night rail runs as planned. Trams wait up to five minutes for a ferry that is in sight.",
        "If you do not travel, you get the fare back, whole, within three days. Nothing has to be explained.",
    ),
    "quote": "Nobody was ever late for having looked at the sea first.",
}
_PLAIN: dict[str, Any] = _SHARED | {
    "here": "Main hall",
    "line": "Every service from one place.",
    "notice": "Works at the west gate",
    "notice_more": "Services to Old bridge leave from door 6 until midnight.",
    "ticket": "Night service 22:10, coach 3, place 14",
    "night": "one night",
    "rows": _rows(_PLAIN_ROWS),
    "cabins": [
        {"name": "Basic", "about": "One place", "price": "29.00", "chosen": False},
        {"name": "Plus", "about": "Two places, with tea", "price": "62.00", "chosen": True},
        {"name": "All of it", "about": "Room for six", "price": "", "gone": True},
    ],
    "series": ("mornings", "afternoons", "nights"),
    "services": [
        {
            "name": "Night service",
            "place": "Hill top",
            "load": "86 %",
            "slot": "go",
            "status": "On time",
        },
        {
            "name": "Shuttle 2",
            "place": "Old bridge",
            "load": "41 %",
            "slot": "wait",
            "status": "12 min late",
        },
        {"name": "Line 7", "place": "Market", "load": "63 %", "slot": "go", "status": "On time"},
        {
            "name": "Shuttle 5",
            "place": "at rest",
            "load": "0 %",
            "slot": "stop",
            "status": "Cancelled",
        },
    ],
    "essay": (
        "Since noon the west gate is closed. The ground below it is opened, so that services leave from door 6 and "
        "take the long way round until the work is done.",
        "The night service runs as planned. Shuttles wait up to five minutes for each other.",
        "If you do not travel, you get the fare back, whole, within three days. Nothing has to be explained.",
    ),
    "quote": "The long way round is still a way.",
}


def words_for(name: str) -> dict[str, Any]:
    """What the scenes say in a project of this name."""
    return {
        "names": _DEMO if name.startswith(DEMO) else _PLAIN,
        "tabs": (
            ("board", "Departures", "departures"),
            ("plan", "Plan a trip", "plan"),
            ("board", "Tickets", "tickets"),
        ),
        "states": ("rest", "hover", "pressed", "selected", "focus", "disabled"),
        "field_states": ("rest", "hover", "focus", "error", "disabled"),
        "messages": (
            ("go", "Saved", "Your seat card is paid."),
            ("note", "New stop", "Line 7 now stops at the market."),
            ("wait", "Two berths left", "They are held until 21:58."),
            ("stop", "Not paid", "The card was refused. Try another."),
        ),
        "levels": (("sunken", "sunken"), ("page", "page"), ("card", "card"), ("raised", "raised")),
    }
