"""Every edit as a named command: what it does to a document, and its sentence."""
