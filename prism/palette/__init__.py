"""The palette: ramps made from a seed."""
