"""The palette: ramps made from a base color, purposes, colors out of text, pictures and ideas."""
