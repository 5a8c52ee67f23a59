"""Coverage: what a scheme of this kind usually has, and what is missing."""
