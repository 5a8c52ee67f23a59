"""Exchange: documents that take the place of others."""
