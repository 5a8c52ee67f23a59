"""Vision: colors that every eye must tell apart."""
