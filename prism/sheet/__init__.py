"""The sheet: tokens by row and mode, their cells, names, groups and traces."""
