"""The core of Nimble Prism: colors, tokens, themes and what can be said of them.

Pure Python. Nothing here knows of the web, a database, a clock or a random source.
"""

__version__ = "0.1.0"
