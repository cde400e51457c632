"""A workshop of one's own from a terminal: serve it, keep it safe, move it, and let somebody in."""

import argparse
import fcntl
import os
import secrets
import socket
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from ..core.errors import InputError

VERBS = ("serve", "migrate", "backup", "restore", "export", "import", "person")


def add_to(verbs: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """Add the verbs that want a workshop's folder, serving, backing up and people among them."""
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
def _alone(var: Path) -> Iterator[int]:
    """One at a time: two starts at once, or a restore under a running server, would spoil each other. Gives the lock's
    descriptor."""
    try:
        lock = (var / "lock").open("a")
        database = var / "insertum.sqlite3"
        if database.is_file() and not os.access(database, os.W_OK):
            raise PermissionError(None, "the database may not be written to", str(database))
    except OSError as error:
        raise InputError(
            f"the workshop cannot be written: {error.strerror}", str(var), "Look at its owner, its rights and its disk."
        ) from error
    with lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            raise InputError(
                "this workshop is served or changed by another process", str(var), "Stop that one first."
            ) from error
        yield lock.fileno()


def _brought_up(var: Path) -> None:
    """Bring the database up to this version, where it is of another one: on a copy, which takes its place in one step. What
    lies there is whole at every moment, and where it fails it is as it was."""
    from django.core.management import call_command
    from django.db import connections

    from .backup import copied, durable

    database, made = var / "insertum.sqlite3", var / "migrating.sqlite3"
    _put_back(var, database)
    _gone(made)  # of a start that was cut short
    there = database.is_file()
    try:
        if there and _up_to_date():
            return
        if there:
            copied(database, made)
        connections["default"].close()
        connections["default"].settings_dict["NAME"] = made
        call_command("migrate", verbosity=0, interactive=False)
        connections.close_all()
        with closing(sqlite3.connect(made)) as db:
            db.execute("pragma journal_mode = delete")  # one file, whole
        made.chmod(0o600)
        durable(made)
        if there:
            # All that is in its log goes into the old file first: the log of one would spoil the other.
            with closing(sqlite3.connect(database)) as db:
                db.execute("pragma journal_mode = delete")
        made.replace(database)
        durable(var)
        with closing(sqlite3.connect(database)) as db:  # so that the next start has nothing to write
            db.execute("pragma journal_mode = wal")
    except Exception as error:
        connections.close_all()
        _gone(made)
        raise InputError(
            f"the database could not be brought up: {error}", str(database), "It is as it was; report this."
        ) from error
    finally:
        connections.close_all()
        connections["default"].settings_dict["NAME"] = database


def _up_to_date() -> bool:
    """Is there nothing to migrate?"""
    from django.db import connections
    from django.db.migrations.executor import MigrationExecutor

    steps = MigrationExecutor(connections["default"])
    steps.loader.check_consistent_history(connections["default"])
    pending = bool(steps.migration_plan(steps.loader.graph.leaf_nodes()))
    connections.close_all()
    return not pending


def _gone(database: Path) -> None:
    for end in ("-wal", "-shm", "-journal", ""):
        database.with_name(database.name + end).unlink(missing_ok=True)


def _put_back(var: Path, database: Path) -> None:
    """Earlier versions took the database away before its copy was in its place: one that was killed in between left the
    copy alone, and it is the workshop."""
    before = var / "before-migration.sqlite3"
    if not database.exists() and before.is_file():
        _gone(database)
        before.replace(database)
    before.unlink(missing_ok=True)


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
    with _alone(var) as lock:
        _django()
        _brought_up(var)
        from django.db import connections

        from .serving import Served

        connections.close_all()  # a process of its own opens its own
        print(f"Ready: http://{args.bind}:{args.port}/   workshop in {var}   stop with Ctrl-C", flush=True)
        # In this very process, which holds the lock: its workers hold it too, until the last of them is gone.
        os.dup(lock)
        try:
            Served(f"{args.bind}:{args.port}", args.workers).run()
        except SystemExit as ended:
            return int(ended.code or 0)
    return 0


def _migrate(args: argparse.Namespace) -> int:
    var = _place()
    with _alone(var):
        _django()
        _brought_up(var)
    print("The database is of this version.")
    return 0


def _backup(args: argparse.Namespace) -> int:
    from .backup import backup

    counts = backup(_place(), args.file)
    print(f"{args.file}: {counts['bytes']} bytes, {counts['photographs']} photographs.")
    return 0


def _restore(args: argparse.Namespace) -> int:
    from .backup import restore

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
    from .backup import export

    counts = export(var, args.file)
    print(f"{args.file}: {counts['job']} jobs, {counts['machine']} machines, {counts['part']} parts.")
    return 0


def _import(args: argparse.Namespace) -> int:
    from .backup import empty, import_

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
