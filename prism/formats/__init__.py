"""Open formats: one module each, reading into a document and writing out of one."""
