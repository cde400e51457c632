"""Backup and restore, export and import: a workshop as one file, and the same workshop out of it."""

import io
import json
import os
import sqlite3
import tempfile
import zipfile
from collections.abc import Iterator
from contextlib import closing, suppress
from datetime import UTC, datetime
from importlib.metadata import version
from pathlib import Path
from typing import Any

from ..core.errors import InputError

#: No photograph, table or database of a workshop is larger.
MOST_BYTES = 8 * 1024**3
BACKUP, EXPORT = "insertum-backup/1", "insertum-export/1"
_CHUNK = 1 << 20


def _told(kind: str, counts: dict[str, int]) -> str:
    now = datetime.now(UTC).isoformat(timespec="seconds")
    return json.dumps({"format": kind, "version": version("insertum"), "at": now, "holds": counts}, indent=1)


class _Whole:
    """A file that is there whole or not at all, readable by its owner only."""

    def __init__(self, path: Path) -> None:
        self.path, self.part = path, path.with_name(path.name + ".part")

    def __enter__(self) -> zipfile.ZipFile:
        try:
            self.out = os.fdopen(os.open(self.part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb")
        except OSError as error:
            raise InputError(
                error.strerror or str(error), str(self.path), "Name a file in a folder you may write to."
            ) from error
        self.zip = zipfile.ZipFile(self.out, "w", zipfile.ZIP_DEFLATED)
        return self.zip

    def __exit__(self, kind: Any, error: Any, trace: Any) -> None:
        try:
            if kind is None:
                self.zip.close()
                self.out.flush()
                os.fsync(self.out.fileno())
                self.out.close()
                self.part.replace(self.path)
        except OSError as problem:
            error = problem
        if kind is None and error is None:
            return
        self.zip.fp = None  # nothing more is written to what is thrown away
        with suppress(OSError):
            self.out.close()
        self.part.unlink(missing_ok=True)
        if isinstance(error, OSError):
            raise InputError(
                error.strerror or str(error), str(self.path), "Make room, or name another disk."
            ) from error


def _pictures(var: Path) -> list[Path]:
    return sorted((var / "photographs").glob("*.jpg"))


def _with_pictures(out: zipfile.ZipFile, var: Path) -> None:
    """A photograph is written before its row: every row of a copy has its file, but one that was erased since."""
    for p in _pictures(var):
        with suppress(FileNotFoundError):
            out.write(p, f"photographs/{p.name}", zipfile.ZIP_STORED)


def copied(source: Path, target: Path) -> None:
    """A database as it stands at one moment, while people work (SQLite's online backup)."""
    with (
        closing(sqlite3.connect(f"file:{source}?mode=ro", uri=True)) as there,
        closing(sqlite3.connect(target)) as here,
    ):
        there.backup(here)


def durable(path: Path) -> None:
    """What is written there, or renamed within a folder, is on the disk."""
    there = os.open(path, os.O_RDONLY)
    try:
        os.fsync(there)
    finally:
        os.close(there)


def backup(var: Path, path: Path) -> dict[str, int]:
    """Database and photographs in one file. Raises :class:`InputError` where there is nothing or no room."""
    database = var / "insertum.sqlite3"
    if not database.is_file():
        raise InputError("no workshop lies here", str(var), "Set INSERTUM_VAR to its folder.")
    # The copy is made where the file goes: the workshop's own disk may be the one that is full.
    with _Whole(path) as out, tempfile.TemporaryDirectory(dir=path.parent) as apart:
        copy = Path(apart) / "insertum.sqlite3"
        copied(database, copy)
        pictures = _pictures(var)
        out.writestr("insertum.json", _told(BACKUP, {"photographs": len(pictures)}))
        out.write(copy, "insertum.sqlite3")
        _with_pictures(out, var)
    with suppress(OSError):  # the backup is made all the same
        (var / "last_backup").write_text(datetime.now(UTC).isoformat(timespec="seconds"))
    return {"photographs": len(pictures), "bytes": path.stat().st_size}


def opened(path: Path, kind: str) -> zipfile.ZipFile:
    """An archive of one kind. Raises :class:`InputError` for anything else."""
    try:
        found = zipfile.ZipFile(path)
        told = json.loads(_read(found, "insertum.json", 1 << 16))
    except (OSError, zipfile.BadZipFile, KeyError, ValueError) as error:
        raise InputError(
            f"no {kind.partition('/')[0].replace('-', ' ')}", str(path), "Name a file that Insertum wrote."
        ) from error
    if not isinstance(told, dict) or told.get("format") != kind:
        raise InputError(f"this is not an {kind}", str(path), "Name a file that this command wrote.")
    return found


def _read(found: zipfile.ZipFile, name: str, most: int) -> bytes:
    with found.open(name) as member:
        data = member.read(most + 1)
    if len(data) > most:
        raise InputError("it unpacks to more than it may", name, "Name a file that Insertum wrote.")
    return data


def _unpacked(found: zipfile.ZipFile, name: str, target: Path) -> None:
    """By counted bytes, not by what the archive's head claims."""
    left = MOST_BYTES
    with (
        found.open(name) as member,
        os.fdopen(os.open(target, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as out,
    ):
        while chunk := member.read(_CHUNK):
            left -= len(chunk)
            if left < 0:
                raise InputError("it unpacks to more than it may", name, "Name a file that Insertum wrote.")
            out.write(chunk)


def empty(var: Path) -> None:
    """Raises :class:`InputError` where a workshop lies already: nothing is written over."""
    if (var / "insertum.sqlite3").exists():
        raise InputError("a workshop lies here already", str(var), "Set INSERTUM_VAR to an empty folder.")


def restore(path: Path, var: Path) -> None:
    """A workshop out of its backup, into an empty place: whole, or nothing of it."""
    empty(var)
    with opened(path, BACKUP) as found, tempfile.TemporaryDirectory(dir=var) as apart:
        try:
            database = Path(apart) / "insertum.sqlite3"
            _unpacked(found, "insertum.sqlite3", database)
            with closing(sqlite3.connect(database)) as db:
                if db.execute("PRAGMA integrity_check").fetchone() != ("ok",):
                    raise InputError("the database in it is damaged", str(path), "Take an older backup.")
            pictures = _photographs_of(found, Path(apart))
        except (KeyError, zipfile.BadZipFile, sqlite3.DatabaseError, OSError) as error:
            raise InputError("the backup is damaged", str(path), "Take an older one.") from error
        _moved(pictures, var)
        database.replace(var / "insertum.sqlite3")


def _photographs_of(found: zipfile.ZipFile, apart: Path) -> list[Path]:
    made = []
    for name in found.namelist():
        folder, _, file = name.partition("/")
        if folder == "photographs" and file.endswith(".jpg") and file.removesuffix(".jpg").isalnum():
            _unpacked(found, name, apart / file)
            made.append(apart / file)
    return made


def _moved(pictures: list[Path], var: Path) -> None:
    folder = var / "photographs"
    folder.mkdir(mode=0o700, exist_ok=True)
    for p in pictures:
        p.replace(folder / p.name)


# -- as open files ------------------------------------------------------------------------------------
def _tables() -> list[Any]:
    from django.apps import apps
    from django.contrib.auth.models import User

    return [User, *apps.get_app_config("shop").get_models()]


def _whole_times() -> type[json.JSONEncoder]:
    """Django's encoder, with times to the microsecond: what comes in again is what went out."""
    from django.core.serializers.json import DjangoJSONEncoder

    class Encoder(DjangoJSONEncoder):
        def default(self, o: Any) -> Any:
            return o.isoformat() if isinstance(o, datetime) else super().default(o)

    return Encoder


def export(var: Path, path: Path) -> dict[str, int]:
    """Everything as open files: a line of JSON a row, one file a table, and the photographs. No password goes out. It is
    read off a copy of one moment, so that nobody who works waits for it."""
    from django.core import serializers
    from django.db import connections

    counts: dict[str, int] = {}
    with _Whole(path) as out, tempfile.TemporaryDirectory(dir=path.parent) as apart:
        copy = Path(apart) / "copy.sqlite3"
        copied(var / "insertum.sqlite3", copy)
        connections.databases["copy"] = {**connections.databases["default"], "NAME": copy}
        try:
            for table in _tables():
                name = table._meta.model_name
                rows = table._base_manager.using("copy").order_by("pk")
                fields = [f.name for f in table._meta.fields if not (name == "user" and f.name == "password")]
                with out.open(f"tables/{name}.jsonl", "w", force_zip64=True) as member:
                    lines = io.TextIOWrapper(member, "utf-8", newline="\n", write_through=True)
                    serializers.serialize("jsonl", rows.iterator(500), fields=fields, stream=lines, cls=_whole_times())
                    lines.detach()
                counts[name] = rows.count()
        finally:
            connections["copy"].close()
            del connections["copy"], connections.databases["copy"]
        _with_pictures(out, var)
        out.writestr("insertum.json", _told(EXPORT, counts))
    return counts


def import_(path: Path, var: Path) -> dict[str, int]:
    """The same workshop out of its export, into an empty one; all or nothing. People get new passwords afterwards."""
    from django.core import serializers
    from django.core.serializers.base import DeserializationError
    from django.db import IntegrityError, transaction

    counts: dict[str, int] = {}
    with opened(path, EXPORT) as found, tempfile.TemporaryDirectory(dir=var) as apart:
        try:
            pictures = _photographs_of(found, Path(apart))
            with transaction.atomic():
                for table in _tables():
                    if table._base_manager.exists() and table._meta.model_name != "revision":
                        raise InputError(
                            "a workshop lies here already", str(var), "Set INSERTUM_VAR to an empty folder."
                        )
                for table in _tables():
                    name = table._meta.model_name
                    rows = list(_rows(serializers, found, name))
                    if name == "revision":
                        table._base_manager.all().delete()
                    for row in rows:
                        if name == "user":
                            row.object.set_unusable_password()
                        row.save()  # as it is: times and marks are those that went out
                    counts[name] = len(rows)
        except (KeyError, zipfile.BadZipFile, DeserializationError, IntegrityError, OSError, ValueError) as error:
            if isinstance(error, InputError):
                raise
            raise InputError(
                f"the export is damaged: {error}"[:300], str(path), "Take another one; nothing was kept."
            ) from error
        _moved(pictures, var)
    return counts


def _rows(serializers: Any, found: zipfile.ZipFile, name: str) -> Iterator[Any]:
    text = _read(found, f"tables/{name}.jsonl", MOST_BYTES // 8).decode()
    # A line ends with a line feed and nothing else: U+2028, U+0085 and the like are characters of what people typed.
    lines = (line for line in text.split("\n") if line)
    yield from serializers.deserialize("jsonl", lines)
