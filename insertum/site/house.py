"""A workshop of one's own from a terminal: serve it, keep it safe, move it, and let somebody in."""

import argparse
import fcntl
import os
import secrets
import socket
import sqlite3
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from ..core.base import InputError

VERBS = ("serve", "migrate", "backup", "restore", "export", "import", "person")


def add_to(verbs: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    verb = verbs.add_parser("serve", help="serve the workshop in INSERTUM_VAR")
    verb.add_argument("--bind", default="127.0.0.1")
    verb.add_argument("--port", type=int, default=8000)
    verb.add_argument("--workers", type=int, default=2)
    verb.set_defaults(run=_serve)
    verbs.add_parser("migrate", help="bring the workshop's database up to this version").set_defaults(run=_migrate)
    for name, run, words in (
        ("backup", _backup, "database and photographs into one file, while people work"),
        ("restore", _restore, "a workshop out of its backup, into an empty place"),
        ("export", _export, "everything as open files, in one archive"),
        ("import", _import, "a workshop out of its export, into an empty one"),
    ):
        verb = verbs.add_parser(name, help=words)
        verb.add_argument("file", type=Path)
        verb.set_defaults(run=run)
    verb = verbs.add_parser("person", help="add somebody, or give them a new password; it is shown once")
    verb.add_argument("name")
    verb.add_argument("--role", choices=("bench", "library", "owner"), default="bench")
    verb.set_defaults(run=_person)


def _place(key: bool = True) -> Path:
    """The workshop's folder, its key made where there is none, and nothing of it readable by others."""
    os.umask(0o077)
    from .place import VAR, made

    try:
        made(VAR)
        path = VAR / "secret_key"
        if key and not path.is_file() and not os.environ.get("INSERTUM_SECRET_KEY"):
            path.write_text(secrets.token_urlsafe(60))
            path.chmod(0o600)
    except OSError as error:
        raise InputError(
            error.strerror or str(error), str(VAR), "Set INSERTUM_VAR to a folder you may write to."
        ) from error
    return VAR


def _django() -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "insertum.site.settings")
    import django

    django.setup()


@contextmanager
def _alone(var: Path) -> Iterator[None]:
    """One at a time: two starts at once, or a restore under a running server, would spoil each other."""
    with (var / "lock").open("a") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            raise InputError(
                "this workshop is served or changed by another process", str(var), "Stop that one first."
            ) from error
        yield


def _brought_up(var: Path) -> None:
    """Migrate; where that fails the database is as it was."""
    from django.core.management import call_command

    from .keeping import copied

    database, before = var / "insertum.sqlite3", var / "before-migration.sqlite3"
    was = database.is_file()
    if was:
        before.unlink(missing_ok=True)
        copied(database, before)
    try:
        call_command("migrate", verbosity=0, interactive=False)
    except BaseException as error:
        from django.db import connections

        connections.close_all()
        for end in ("", "-wal", "-shm"):
            database.with_name(database.name + end).unlink(missing_ok=True)
        if was:
            before.replace(database)
        if isinstance(error, Exception):
            raise InputError(
                f"the database could not be brought up: {error}", str(database), "It is as it was; report this."
            ) from error
        raise
    before.unlink(missing_ok=True)
    database.chmod(0o600)


def _new_epoch() -> None:
    from ..shop.services.epoch import begin_epoch

    begin_epoch()


def _serve(args: argparse.Namespace) -> int:
    var = _place()
    with socket.socket() as asked:
        asked.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            asked.bind((args.bind, args.port))
        except OSError as error:
            raise InputError(
                f"port {args.port} cannot be taken: {error.strerror}", args.bind, "Name another with --port."
            ) from error
    with _alone(var):
        _django()
        _brought_up(var)
        print(f"Ready: http://{args.bind}:{args.port}/   workshop in {var}   stop with Ctrl-C", flush=True)
        # The logs are the requests' own lines; gunicorn says only what is wrong.
        command = [
            sys.executable, "-m", "gunicorn", "insertum.site.wsgi:application", "--bind", f"{args.bind}:{args.port}",
            "--workers", str(args.workers), "--threads", "4", "--log-level", "warning",
        ]  # fmt: skip
        with subprocess.Popen(command) as server:
            try:
                return server.wait()
            except KeyboardInterrupt:
                server.terminate()
                return server.wait() and 0


def _migrate(args: argparse.Namespace) -> int:
    var = _place()
    with _alone(var):
        _django()
        _brought_up(var)
    print("The database is of this version.")
    return 0


def _backup(args: argparse.Namespace) -> int:
    from .keeping import backup

    counts = backup(_place(), args.file)
    print(f"{args.file}: {counts['bytes']} bytes, {counts['photographs']} photographs.")
    return 0


def _restore(args: argparse.Namespace) -> int:
    from .keeping import restore

    var = _place()
    with _alone(var):
        restore(args.file, var)
        _django()
        _brought_up(var)
        _new_epoch()
    print(f"The workshop is in {var}. Start it with: insertum serve")
    return 0


def _export(args: argparse.Namespace) -> int:
    var = _place()
    if not (var / "insertum.sqlite3").is_file():
        raise InputError("no workshop lies here", str(var), "Set INSERTUM_VAR to its folder.")
    _django()
    from .keeping import export

    counts = export(var, args.file)
    print(f"{args.file}: {counts['job']} jobs, {counts['machine']} machines, {counts['part']} parts.")
    return 0


def _import(args: argparse.Namespace) -> int:
    from .keeping import empty, import_

    var = _place()
    empty(var)
    with _alone(var):
        _django()
        try:
            _brought_up(var)
            counts = import_(args.file, var)
            _new_epoch()
        except BaseException:
            from django.db import connections

            connections.close_all()
            for left in var.glob("insertum.sqlite3*"):
                left.unlink()
            raise
    print(
        f"{counts['job']} jobs, {counts['machine']} machines, {counts['part']} parts. Give each person a password: insertum person NAME"
    )
    return 0


def _person(args: argparse.Namespace) -> int:
    var = _place()
    if not (var / "insertum.sqlite3").is_file():
        raise InputError("no workshop lies here", str(var), "Set INSERTUM_VAR to its folder.")
    _django()
    from django.contrib.auth.models import User

    from ..shop.services import people

    known = User.objects.filter(username=args.name).exists()
    made = people.new_password(args.name, None) if known else people.add(args.name, args.role, None)
    print(f"{made.name}: {made.password}   to be changed at the first sign-in")
    return 0


#: What goes wrong with a disk or a database while a verb runs is said in words too.
TROUBLE = (OSError, sqlite3.Error)
