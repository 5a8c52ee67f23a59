"""One thing from another: mappings along ramps, a mode from a mode, tokens from names."""
