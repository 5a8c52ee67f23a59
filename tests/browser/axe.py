"""Running axe-core inside a page."""

from pathlib import Path

SOURCE = Path(__file__).parents[2] / "node_modules" / "axe-core" / "axe.min.js"

_RUN = """
(options) => axe.run(document, options)
"""


def run(page, *rules, kinds=("violations", "incomplete", "passes")):
    """axe-core's results of some ``kinds`` for a page, for ``rules`` only where any are named."""
    # The page's policy allows no script of a test, so it comes in past the policy.
    page.evaluate(SOURCE.read_text() + "; undefined")
    options = {"resultTypes": list(kinds), "preload": False}
    if rules:
        options["runOnly"] = {"type": "rule", "values": list(rules)}
    return page.evaluate(_RUN, options)


def violations(page, *rules):
    """What axe-core finds wrong, a line each."""
    found = run(page, *rules, kinds=("violations",))["violations"]
    return [
        f"{one['id']}: {node['target']} {node['failureSummary'][:200]}"
        for one in found
        for node in one["nodes"]
    ]
