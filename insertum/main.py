"""The command ``insertum``: the core's verbs, and those of a workshop of one's own."""

import sys

from . import cli
from .core.errors import InputError
from .site import admin_commands


def main(argv: list[str] | None = None) -> int:
    """The ``insertum`` command; what it returns is the exit status."""
    parser, verbs = cli.parser()
    admin_commands.add_to(verbs)
    args = parser.parse_args(argv)
    try:
        return int(args.run(args))
    except InputError as error:
        print(error, file=sys.stderr)
        return cli.BAD_INPUT
    except admin_commands.TROUBLE as error:
        print(f"{args.verb}: {error}", file=sys.stderr)
        return cli.BAD_INPUT


if __name__ == "__main__":
    sys.exit(main())
