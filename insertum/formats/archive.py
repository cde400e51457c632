"""Archives, opened by what really comes out of them: a header may claim anything."""

import io
import zipfile
import zlib

from ..core.errors import InputError

#: How archives may be packed: as they are, or deflated. Other methods unpack to more than anybody meant.
_METHODS = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED)
_PIECE = 64 * 1024


def unpacked(data: bytes, where: str, most_bytes: int, most_files: int, mend: str) -> list[tuple[str, bytes]]:
    """The files of a zip by name, folders left out. Raises :class:`InputError` (with ``mend``) for what is none, for too
    many files, and as soon as more than ``most_bytes`` have come out."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            infos = [i for i in archive.infolist() if not i.filename.endswith("/")]
            if len(infos) > most_files:
                raise InputError(f"{len(infos)} files, at most {most_files} are read", where, mend)
            found, left = [], most_bytes
            for info in infos:
                if info.compress_type not in _METHODS:
                    raise InputError(f"{info.filename[:80]} is packed in a way we do not open", where, mend)
                content = _counted(archive, info, left, where)
                left -= len(content)
                found.append((info.filename, content))
            return found
    except InputError:
        raise
    except (
        zipfile.BadZipFile,
        RuntimeError,
        NotImplementedError,
        OSError,
        EOFError,
        ValueError,
        LookupError,
        zlib.error,
    ) as error:
        raise InputError(f"it cannot be opened: {error}", where, mend) from error


def _counted(archive: zipfile.ZipFile, info: zipfile.ZipInfo, most: int, where: str) -> bytes:
    pieces, size = [], 0
    with archive.open(info) as stream:
        while piece := stream.read(_PIECE):
            size += len(piece)
            if size > most:
                raise InputError("it unpacks to more than is read", where, "Check that it is the right file.")
            pieces.append(piece)
    return b"".join(pieces)
