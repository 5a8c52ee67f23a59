"""What was computed of the documents in hand, found again by the document itself."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import Generic, TypeVar

from prism.model.document import Document

T = TypeVar("T")


class Recent(Generic[T]):
    """The results of a computation for the documents that were asked for last, at most ``most``.

    An edit looks at its result before anybody analyzes it; what it computed for that is then
    found here. A document is known by identity: it cannot change. Threads may share it.
    """

    def __init__(self, most: int = 12) -> None:
        self._most = most
        self._lock = threading.Lock()
        self._entries: OrderedDict[int, tuple[Document, T]] = OrderedDict()

    def get(self, document: Document) -> T | None:
        """The result for a document, where it is still known."""
        with self._lock:
            entry = self._entries.get(id(document))
            if entry is None:
                return None
            self._entries.move_to_end(id(document))
            return entry[1]

    def put(self, document: Document, result: T) -> T:
        """Keep a result; the one of a thread that came first stays."""
        with self._lock:
            entry = self._entries.setdefault(id(document), (document, result))
            self._entries.move_to_end(id(document))
            while len(self._entries) > self._most:
                self._entries.popitem(last=False)
            return entry[1]

    def of(self, document: Document, compute: Callable[[], T]) -> T:
        """The result for a document, computed where it is not known."""
        known = self.get(document)
        return known if known is not None else self.put(document, compute())
