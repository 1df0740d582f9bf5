"""The engine by itself: `python -m lattice --help`."""

from lattice.command_line import main

__all__ = ["main"]

if __name__ == "__main__":
    main()
