"""Runs the command line."""

from prism.cli import main

main(prog_name="nimble-prism")
