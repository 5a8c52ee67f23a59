"""The group of all commands, and the options that they share."""

from __future__ import annotations

import gc
import os
import sys
from typing import Any

import click

from prism import __version__
from prism.errors import PrismError
from prism.formats import files


class _Main(click.Group):
    """Prints whatever goes wrong as one sentence and exits with 2.

    With NIMBLE_PRISM_TRACE in the environment an error of the program itself shows where it
    happened.
    """

    def invoke(self, ctx: click.Context) -> Any:
        try:
            return super().invoke(ctx)
        except PrismError as error:
            self._stop(ctx, str(error))
        except BrokenPipeError:
            # The program that read the output has ended; there is nothing to write to.
            os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
            self._stop(ctx, "The output was closed before all was written.")
        except RecursionError:
            self._stop(ctx, "The input is nested too deeply to be read.")
        except MemoryError:
            self._stop(ctx, "The input needs more memory than there is.")
        except (OSError, UnicodeError) as error:
            self._stop(ctx, f"The input or output failed: {error}.")
        except Exception as error:
            if isinstance(
                error, click.exceptions.ClickException | click.exceptions.Exit | click.Abort
            ):
                raise
            if "NIMBLE_PRISM_TRACE" in os.environ:
                raise
            self._stop(ctx, f"This could not be done, by a mistake of the program: {error!r}.")

    def _stop(self, ctx: click.Context, sentence: str) -> None:
        click.echo(" ".join(sentence.split()), err=True)
        ctx.exit(2)


_EPILOG = f"""
\b
Formats read:    {", ".join(files.ENDINGS)}, folders of them, - for standard input
Formats written: {", ".join(files.KINDS)}

\b
Exit codes: 0 all is well
            1 a check failed: a pairing falls short, a token has no value, files differ
            2 the input or the arguments are wrong; one sentence says where and what to do

\b
Examples: nimble-prism resolve tokens.css --theme theme=dark
          nimble-prism audit tokens.resolver.json --pairings pairings.json --json
          nimble-prism export tokens.css --format css-in-place -o out
          nimble-prism diff before.css after.css --exit-code values
"""


@click.group(cls=_Main, epilog=_EPILOG)
@click.version_option(__version__, prog_name="nimble-prism")
def main() -> None:
    """Read design tokens, resolve them in every theme, check them, edit them, export them."""
    # Reading makes many small objects that live on: looking through them often finds nothing.
    gc.set_threshold(50_000, 20, 20)


file_argument = click.argument("file", metavar="FILE")
theme_option = click.option(
    "--theme", "wanted", multiple=True, metavar="AXIS=MODE", help="A mode; may be repeated."
)
maps_option = click.option(
    "--map",
    "maps",
    multiple=True,
    metavar="SELECTOR=AXIS:MODE",
    help="The mode that a selector asks for, such as a class that names none.",
)
json_option = click.option("--json", "as_json", is_flag=True, help="Print JSON.")
