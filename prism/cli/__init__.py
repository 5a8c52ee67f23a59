"""The command line, over files and folders of every format that is read; no database.

Results go to standard output, remarks to standard error. Exit code 1: a pairing fails or files
differ; 2: bad input, with one sentence. A command is a file here and a line in ``COMMANDS`` of ``group``.
"""

from __future__ import annotations

from prism.cli.group import main

__all__ = ["main"]
