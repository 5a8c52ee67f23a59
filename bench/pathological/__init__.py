"""Input that is built to take for ever."""
