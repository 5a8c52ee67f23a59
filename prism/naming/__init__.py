"""Names by scheme: ordered parts, each with its words."""
