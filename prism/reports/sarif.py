"""Reports as SARIF 2.1.0 (OASIS Standard, 2020), which systems of continuous integration read."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping
from typing import Any
from urllib.parse import quote

from prism.checks import CHECKS
from prism.reports.places import Place
from prism.reports.report import Item, Report

_SCHEMA = (
    "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json"
)


#: What the names of files are relative to.
_BASE = "CALLED_FROM"


def as_sarif(
    report: Report, places: Mapping[str, Place], version: str, called_from: str = ""
) -> str:
    """A report as SARIF text. ``places`` are where tokens stand in what was read, by path, their files relative to the
    folder with the URI ``called_from``; ``version`` is ours."""
    rules = [
        {
            "id": check.id,
            "name": check.title,
            "shortDescription": {"text": check.title},
            "fullDescription": {"text": check.why},
        }
        for check in CHECKS
    ]
    driver = {
        "name": "Nimble Prism",
        "semanticVersion": version,
        "rules": rules,
    }
    base = {"originalUriBaseIds": {_BASE: {"uri": called_from}}} if called_from else {}
    run = {
        "tool": {"driver": driver},
        **base,
        "columnKind": "unicodeCodePoints",
        "results": [
            _result(item, places, _BASE if called_from else "")
            for item in (*report.open, *report.accepted)
        ],
    }
    log = {"$schema": _SCHEMA, "version": "2.1.0", "runs": [run]}
    return json.dumps(log, ensure_ascii=False, indent=1) + "\n"


def _result(item: Item, places: Mapping[str, Place], base: str) -> dict[str, Any]:
    finding = item.finding
    advice = " ".join(fix.words.rstrip(".") + "." for fix in finding.fixes)
    result: dict[str, Any] = {
        "ruleId": finding.check,
        "ruleIndex": next(i for i, check in enumerate(CHECKS) if check.id == finding.check),
        "level": finding.severity,
        "message": {"text": f"{finding.what} {advice}".strip()},
        "partialFingerprints": {"finding/v1": hashlib.sha256(item.id.encode()).hexdigest()[:32]},
        "properties": {"tokens": list(item.paths), "themes": finding.themes},
    }
    located = [_location(places[path], path, base) for path in item.paths if path in places]
    if located:
        result["locations"] = located[:1]
        if located[1:]:
            result["relatedLocations"] = located[1:]
    if not item.is_open:
        result["suppressions"] = [{"kind": "external", "justification": finding.accepted}]
    return result


def _location(place: Place, path: str, base: str) -> dict[str, Any]:
    artifact = {"uri": quote(place.file)}
    if place.file.startswith("/"):
        artifact["uri"] = f"file://{artifact['uri']}"
    elif base:
        artifact["uriBaseId"] = base
    return {
        "physicalLocation": {
            "artifactLocation": artifact,
            "region": {"startLine": place.line},
        },
        "logicalLocations": [{"fullyQualifiedName": path}],
    }
