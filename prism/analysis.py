"""All that is computed from a document."""
