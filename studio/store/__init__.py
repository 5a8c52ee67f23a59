"""Projects in the database: ``load`` them, and ``save`` them as the only writer."""
