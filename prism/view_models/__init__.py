"""What a page shows, as plain values."""
