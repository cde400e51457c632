"""Opening reading bundles: a folder, a zip, or JSON ``{"format": "insertum-bundle/1", "files": {name: text}}``.

A bundle is bounded in size, depth and count, and no path in it leaves it. What the files mean is
read in ``formats/tools.py``.
"""

import io
import zipfile
import zlib
from pathlib import Path, PurePosixPath

from ..core.base import InputError
from .checked import MAX_BYTES, parsed, text_of

FORMAT = "insertum-bundle/1"
MAX_FILES = 100
MAX_DEPTH = 4


def files_of(data: bytes, where: str = "bundle") -> dict[str, bytes]:
    """The bundle's files by name. Raises :class:`InputError` for what is no bundle."""
    if data[:2] == b"PK":
        return _from_zip(data, where)
    value = parsed(text_of(data, where), where)
    if not isinstance(value, dict) or value.get("format") != FORMAT:
        raise InputError("not a reading bundle", where, f'It is a zip, or JSON with "format": "{FORMAT}".')
    files = value.get("files")
    if not isinstance(files, dict) or not all(isinstance(v, str) for v in files.values()):
        raise InputError("no files in it", where, 'Write "files": {"dmidecode.txt": "..."}.')
    _bounded(list(files), where)
    return {PurePosixPath(name).name: text.encode(errors="replace") for name, text in files.items()}


def _bounded(names: list[str], where: str) -> None:
    if len(names) > MAX_FILES:
        raise InputError(f"{len(names)} files, at most {MAX_FILES} are read", where)
    for name in names:
        path = PurePosixPath(name.replace("\\", "/"))
        if path.is_absolute() or ".." in path.parts or len(path.parts) > MAX_DEPTH:
            raise InputError(f"the path {name!r} leaves the bundle or is too deep", where, "Gather it again.")


def _from_zip(data: bytes, where: str) -> dict[str, bytes]:
    if len(data) > MAX_BYTES:
        raise InputError(f"{len(data) / 2**20:.0f} MB, at most {MAX_BYTES // 2**20} MB are read", where)
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            infos = [i for i in archive.infolist() if not i.is_dir()]
            _bounded([i.filename for i in infos], where)
            if sum(i.file_size for i in infos) > MAX_BYTES:
                raise InputError("it unpacks to more than is read", where, "Check that it is the right file.")
            return {PurePosixPath(i.filename).name: archive.read(i) for i in infos}
    except InputError:
        raise
    except (zipfile.BadZipFile, RuntimeError, NotImplementedError, OSError, EOFError, ValueError, zlib.error) as error:
        raise InputError(f"the zip cannot be opened: {error}", where, "Gather it again.") from error


def files_in(folder: Path) -> dict[str, bytes]:
    """The files of a bundle folder and the folders in it, never following links out of it."""
    found: dict[str, bytes] = {}
    names, whole = [], 0
    for path in sorted(folder.rglob("*")):
        if path.is_symlink() or not path.is_file() or any(p.is_symlink() for p in path.parents if folder in p.parents):
            continue
        names.append(path.relative_to(folder).as_posix())
        whole += path.stat().st_size
        if whole > MAX_BYTES or len(names) > MAX_FILES:
            break
    _bounded(names, str(folder))
    if whole > MAX_BYTES:
        raise InputError(f"over {MAX_BYTES // 2**20} MB", str(folder), "Check that it is the right folder.")
    for name in names:
        found[PurePosixPath(name).name] = (folder / name).read_bytes()
    return found
