"""The words of the trip planner in both its languages, and what it shows at all."""

from __future__ import annotations

from demo.quillhaven.axes import CANCELLED, DELAYED, NOTICE, OSPRELLE, PORTUGUESE, VEXLEY

#: Path: English, Portuguese.
STRINGS: dict[str, tuple[str, str]] = {
    "copy.departures": ("Departures", "Partidas"),
    "copy.plan": ("Plan a trip", "Planear a viagem"),
    "copy.tickets": ("Tickets", "Bilhetes"),
    "copy.from": ("From", "De"),
    "copy.to": ("To", "Para"),
    "copy.time": ("Time", "Hora"),
    "copy.where": ("Where to?", "Para onde?"),
    "copy.find": ("Find a crossing", "Procurar travessia"),
    "copy.later": ("Later today", "Mais tarde"),
    "copy.next": ("Next up", "A seguir"),
    "copy.paid": ("Paid", "Pago"),
    "copy.wrong": (
        "Name a stop, a quay or a platform.",
        "Indique uma paragem, um cais ou uma linha.",
    ),
    "copy.nothing": (
        "Nothing leaves between 23:40 and 04:55.",
        "Não há partidas entre as 23:40 e as 04:55.",
    ),
    "copy.checked": ("Last checked", "Última consulta"),
}

#: How a departure stands, in English and Portuguese.
STATUS: tuple[tuple[dict[str, str], str, str], ...] = (
    ({}, "On time", "À hora"),
    (DELAYED, "Late", "Atrasado"),
    (CANCELLED, "Cancelled", "Cancelado"),
    (NOTICE, "Changed", "Alterado"),
)
IN_PORTUGUESE = PORTUGUESE

#: Path: values and description.
SHOWN: dict[str, tuple[tuple[tuple[dict[str, str], str], ...], str]] = {
    "show.berths": ((({}, "true"), (VEXLEY, "false")), "Trams have no berths"),
    "show.sea": ((({}, "false"), (OSPRELLE, "true")), "How the sea is, on ferries"),
    "show.map": ((({}, "true"),), "The map beside the board"),
}
