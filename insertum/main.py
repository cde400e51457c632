"""The command ``insertum``: the core's verbs, and those of a workshop of one's own."""

import sys

from . import cli
from .core.errors import InputError
from .site import house


def main(argv: list[str] | None = None) -> int:
    parser, verbs = cli.parser()
    house.add_to(verbs)
    args = parser.parse_args(argv)
    try:
        return int(args.run(args))
    except InputError as error:
        print(error, file=sys.stderr)
        return cli.BAD_INPUT
    except house.TROUBLE as error:
        print(f"{args.verb}: {error}", file=sys.stderr)
        return cli.BAD_INPUT


if __name__ == "__main__":
    sys.exit(main())
