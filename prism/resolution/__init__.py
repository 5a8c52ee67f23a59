"""What tokens come to in each theme, and the contrast of pairings over all themes."""
