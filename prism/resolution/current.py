"""The resolver of a document: one for each, shared by the edits and by its analysis."""

from __future__ import annotations

from prism.model.document import Document
from prism.resolution.recent import Recent
from prism.resolution.resolver import Resolver

_resolvers: Recent[Resolver] = Recent()


def resolver_of(document: Document, before: Resolver | None = None) -> Resolver:
    """The resolver of a document.

    ``before`` is that of the document it was made from, as ``Resolver`` takes it.
    """
    return _resolvers.of(document, lambda: Resolver(document, before))
