"""What is reckoned of a document once and kept with it."""

from __future__ import annotations

from prism.model.document import Document
from prism.resolution.resolver import Resolver


def resolver_of(document: Document, before: Resolver | None = None) -> Resolver:
    """The resolver of a document, made at most once and kept with it.

    ``before`` is that of the document it was made from, as ``Resolver`` takes it.
    """
    kept = document.kept.get("resolver")
    if not isinstance(kept, Resolver):
        kept = document.kept["resolver"] = Resolver(document, before)
    return kept
