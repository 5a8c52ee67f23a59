"""What can be done to a document, as functions that refuse what would break it."""
