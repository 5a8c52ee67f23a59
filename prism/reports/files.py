"""Reports as JSON and CSV."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

from prism.errors import FormatError
from prism.formats import strict_json
from prism.reports.report import Item, Report

#: The version of the form of JSON reports.
VERSION = 1
_COLUMNS = ("id", "section", "check", "severity", "what", "tokens", "where", "themes", "fixes", "state", "reason",
            "by", "until", "new")  # fmt: skip
#: What a table would compute in place of showing it.
_FORMULAS = ("=", "+", "-", "@", "\t", "\r")


def members(item: Item) -> dict[str, Any]:
    """A finding as plain members."""
    finding = item.finding
    return {
        "id": item.id,
        "section": item.section,
        "check": finding.check,
        "severity": finding.severity,
        "what": finding.what,
        "tokens": list(item.paths),
        "where": finding.where,
        "themes": finding.themes,
        "fixes": [fix.words for fix in finding.fixes],
        "state": "open" if item.is_open else "accepted",
        "reason": finding.accepted,
        "by": finding.accepted_by,
        "until": finding.until,
        "new": item.is_new,
    }


def plain(report: Report) -> dict[str, Any]:
    """A report as plain members."""
    return {
        "name": report.name,
        "date": report.today,
        "themes": report.themes,
        "open": report.by_severity(),
        "checks": [
            {
                "id": glance.id,
                "section": glance.section,
                "title": glance.title,
                "looked at": glance.looked,
                "judged": glance.judged,
                "open": glance.open,
                "accepted": glance.accepted,
            }
            for glance in report.glances
        ],
        "findings": [members(item) for item in (*report.open, *report.accepted)],
    }


def as_json(report: Report) -> str:
    """A report as JSON text."""
    return json.dumps({"version": VERSION, **plain(report)}, ensure_ascii=False, indent=1) + "\n"


def as_csv(report: Report) -> str:
    """A report as a table, a finding a row; what a table would compute is made text."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(_COLUMNS)
    for item in (*report.open, *report.accepted):
        row = members(item)
        writer.writerow([_cell(row[name]) for name in _COLUMNS])
    return out.getvalue()


def _cell(value: Any) -> str:
    text = "; ".join(value) if isinstance(value, list) else str(value)
    return f"'{text}" if text.startswith(_FORMULAS) else text


def known_ids(data: bytes, file: str) -> frozenset[str]:
    """The ids of the findings of a JSON report. Raises ``FormatError`` for any other file."""
    findings = strict_json.read(data, file).get("findings")
    if not isinstance(findings, list) or not all(isinstance(finding, dict) for finding in findings):
        raise FormatError("This is no report.", place=file, fix="Write one with --format json.")
    return frozenset(str(finding.get("id", "")) for finding in findings)
