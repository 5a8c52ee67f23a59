"""What the fields of the Stage are called."""

LABELS = {
    "looks.rows": "Down",
    "looks.across": "Across",
    "looks.state": "Parts",
    "looks.lens": "Lens",
    "looks.severity": "Severity",
    "looks.wipe": "Wipe",
    "move.into": "Stands",
    "judge.ink": "text",
    "judge.fill": "on",
    "judge.ground": "over",
    "make-scene.name": "Name",
    "pane.width": "Width",
    "pane.zoom": "Zoom",
}
