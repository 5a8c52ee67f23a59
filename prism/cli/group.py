"""The group of all commands, and the options that they share."""

from __future__ import annotations

import gc
import os
import sys
from importlib import import_module
from typing import Any

import click

from prism import __version__
from prism.errors import PrismError

#: The module of each command, and what its line in the help says; a command is loaded when it is called.
COMMANDS = {
    "audit": ("audit", "Run every check: contrast of every pairing in every theme,..."),
    "commands": ("edit", "List all commands for `edit`, with their fields."),
    "diff": ("diff", "Print what differs between two files, a line for each change,..."),
    "edit": ("edit", "Run COMMAND on FILE and export the result; `commands` lists..."),
    "export": ("export", "Export FILE to a folder in another format."),
    "fix": ("propose", "Move the colors of FILE, as few and as little as will do,..."),
    "link": ("link", "Match literal colors of semantic tokens to the palette, each..."),
    "propose": ("propose", "Propose a mode of FILE, in which every pairing passes: a dark..."),
    "resolve": ("resolve", "Print what every token resolves to, in all themes or in one."),
    "roles": ("roles", "Print what each color is for, what it belongs to, how sure..."),
    "trace": ("trace", "Print the trace of the token PATH, hop by hop."),
}


class _Main(click.Group):
    """Loads a command when it is called, prints whatever goes wrong as one sentence and exits with 2.

    With NIMBLE_PRISM_TRACE in the environment an error of the program itself shows where it
    happened.
    """

    def list_commands(self, ctx: click.Context) -> list[str]:
        return sorted(COMMANDS)

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        if cmd_name in COMMANDS:
            import_module(f"prism.cli.{COMMANDS[cmd_name][0]}")
        return super().get_command(ctx, cmd_name)

    def format_commands(self, ctx: click.Context, formatter: click.HelpFormatter) -> None:
        with formatter.section("Commands"):
            formatter.write_dl([(name, COMMANDS[name][1]) for name in self.list_commands(ctx)])

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


_EPILOG = """
\b
Formats read:    .tokens.json, .resolver.json, .json, .css, .gpl, .csv, .svg, folders of them, - for standard input
Formats written: css, css-classes, flat-css, clipped-css, css-in-place, design-tokens, json, csv, gpl, svg

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
unknown_option = click.option(
    "--allow-unknown",
    "allowed",
    type=click.IntRange(min=0),
    default=0,
    metavar="N",
    help="So many colors may be in no known pairing; more make the exit code 2.",
)
json_option = click.option("--json", "as_json", is_flag=True, help="Print JSON.")
