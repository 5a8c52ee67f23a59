"""Forms of the table of all colors on all grounds."""

#: The labels of its fields.
LABELS = {
    "explore.ink": "colors",
    "explore.ground": "on",
}
