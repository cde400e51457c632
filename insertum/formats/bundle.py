"""Opening reading bundles: a folder, a zip, or JSON ``{"format": "insertum-bundle/1", "files": {name: text}}``.

A bundle is bounded in size, depth and count, and no path in it leaves it. What the files mean is
read in ``formats/readings``. Files keep the folder they lie in: two of one name are two files.
"""

from pathlib import Path, PurePosixPath

from ..core.errors import InputError
from .archive import unpacked
from .json_errors import MAX_BYTES, parsed, text_of

FORMAT = "insertum-bundle/1"
MAX_FILES = 100
MAX_DEPTH = 4
MAX_NAME = 200


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
    return {kept: files[name].encode(errors="replace") for name, kept in _bounded(list(files), where).items()}


def _bounded(names: list[str], where: str) -> dict[str, str]:
    """Each name with the path it is kept under. Raises for too many, too deep, too long, or two of one path."""
    if len(names) > MAX_FILES:
        raise InputError(f"{len(names)} files, at most {MAX_FILES} are read", where)
    found: dict[str, str] = {}
    for name in names:
        path = PurePosixPath(name.replace("\\", "/"))
        if path.is_absolute() or ".." in path.parts or len(path.parts) > MAX_DEPTH or not path.parts:
            raise InputError(f"the path {name[:80]!r} leaves the bundle or is too deep", where, "Gather it again.")
        if len(name) > MAX_NAME or not name.isprintable():
            raise InputError(f"the file name {name[:80]!r} is none we keep", where, "Gather it again.")
        found[name] = path.as_posix()
    if len(set(found.values())) < len(names):
        raise InputError("two files of one path", where, "Gather it again.")
    return found


def _from_zip(data: bytes, where: str) -> dict[str, bytes]:
    if len(data) > MAX_BYTES:
        raise InputError(f"{len(data) / 2**20:.0f} MB, at most {MAX_BYTES // 2**20} MB are read", where)
    files = unpacked(data, where, MAX_BYTES, MAX_FILES, "Gather it again.")
    paths = _bounded([name for name, _ in files], where)
    return {paths[name]: content for name, content in files}


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
    paths = _bounded(names, str(folder))
    if whole > MAX_BYTES:
        raise InputError(f"over {MAX_BYTES // 2**20} MB", str(folder), "Check that it is the right folder.")
    for name in names:
        found[paths[name]] = (folder / name).read_bytes()
    return found
