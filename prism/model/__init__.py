"""The document and its parts, what must hold of every document, and names in CSS."""
