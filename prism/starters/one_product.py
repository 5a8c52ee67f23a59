"""A starting point: one product, light and dark."""

from __future__ import annotations

from prism.model.document import Document
from prism.palette.ramp_edits import NewKey
from prism.starters import scheme
from prism.starters.plan import Plan

_PAGE = """
**Raw colors say what a color is, semantic tokens what it is for.** Use semantic tokens in the
interface; only semantic tokens refer to raw colors.

- The first color leads: actions, links and the focus show it. The others are accents.
- The neutral ramp is tinted towards the leading color. Text, lines and surfaces come from it.
- Each of the four statuses has a text, a tint, a line, a fill and a label.

Steps are anchored: step 8 of any ramp has the same contrast on white as step 8 of any other. So a ramp
can be retuned, or exchanged for another, and every pairing still passes.
"""


def build(plan: Plan, new_key: NewKey) -> Document:
    """The whole scheme, with fresh keys."""
    document = scheme.build(plan, new_key)
    return scheme.described(document, "One product in light and dark.", _PAGE, new_key)
