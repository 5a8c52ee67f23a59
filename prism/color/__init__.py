"""Color: parsing, conversion, gamut, compositing and contrast."""
