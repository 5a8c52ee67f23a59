"""The command line, over files and folders of every format that is read; no database.

Results go to standard output, remarks to standard error. Exit code 1: a pairing fails or files
differ; 2: bad input, with one sentence. A command is a file here and a name below.
"""

from __future__ import annotations

from prism.cli import audit, diff, edit, export, link, propose, resolve, roles, trace
from prism.cli.group import main

__all__ = [
    "audit",
    "diff",
    "edit",
    "export",
    "link",
    "main",
    "propose",
    "resolve",
    "roles",
    "trace",
]
