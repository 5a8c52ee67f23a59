"""Starting points for new projects: whole schemes of our own, each with a page on how it is meant."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from prism import checks
from prism.analysis import Analysis
from prism.model.document import Document, Mute
from prism.palette import purposes, ramp_edits
from prism.palette.ramp_edits import NewKey
from prism.starters import dense_tool, one_product, several_brands
from prism.starters.plan import Plan

_UNEVEN = (
    "It shows the brand’s own color: no step of its ramp is as strong in dark as in light, stands out "
    "at 3:1 and carries a label."
)


@dataclass(frozen=True, slots=True)
class Starter:
    """A starting point: ``build(plan, new_key)`` gives the document of a plan."""

    id: str
    name: str
    sentence: str
    build: Callable[[Plan, NewKey], Document]


def _nothing(plan: Plan, new_key: NewKey) -> Document:
    """No scheme: the ramps of the colors alone, where there are any."""
    document = Document(name=plan.name, purposes=purposes.STARTING if plan.colors else ())
    for color in plan.colors:
        fields = {"seed": color.base}
        document = ramp_edits.add_ramp(document, color.name, fields, new_key, purpose="identity")
    return document


STARTERS = (
    Starter("one-product", "One product", "light and dark", one_product.build),
    Starter(
        "several-brands", "Several brands", "a color each; what differs is in one place",
        several_brands.build,
    ),
    Starter("dense-tool", "Dense tool", "small type, charts, two densities", dense_tool.build),
    Starter("nothing", "Nothing", "an empty project", _nothing),
)  # fmt: skip


def starter(id: str) -> Starter:
    """The starting point with this id; the first where there is none."""
    return next((starter for starter in STARTERS if starter.id == id), STARTERS[0])


def build(plan: Plan, new_key: NewKey) -> Document:
    """The document that a plan describes. Raises ``PrismError`` for what cannot be built.

    A brand’s own color that no step of its ramp makes as strong by night as by day, and that still stands out,
    stays as it is; that is written down with it.
    """
    document = starter(plan.start).build(plan, new_key)
    if not plan.has("dark") or not document.tokens:
        return document
    uneven = [finding.identity for finding in checks.run(Analysis(document), "balance")]
    return replace(
        document, mutes=tuple(Mute(new_key(), *identity, reason=_UNEVEN) for identity in uneven)
    )
