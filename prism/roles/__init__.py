"""What tokens are for: roles guessed from names, neighbours and colors, and pairings by rule."""
