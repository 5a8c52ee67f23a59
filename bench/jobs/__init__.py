"""What a designer does, done by hand through the real interface and counted.

    ./dev jobs [--json]

Every job starts on the list of projects, on data that is not the demo's, 150 ms away. Its outcome is proved
outside the page: by the exported file, the resolver, or the colors that Chromium computes.
"""
