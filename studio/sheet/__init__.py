"""The sheet: rows of tokens and columns of modes, for the room of tokens and for the measures and texts of the palette."""
