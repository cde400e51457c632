"""Photographs: whatever a telephone or camera sends, made anew as a plain JPEG without position or device data."""

import io
from typing import NamedTuple

from PIL import Image, ImageOps, UnidentifiedImageError

from ..core.errors import InputError

#: What may be sent, in bytes; what is kept is at most so many pixels on its longer side.
MOST_BYTES = 16 * 1024 * 1024
LONGEST = 2048
#: A picture that unpacks to more pixels than any camera makes is no picture.
MOST_PIXELS = 80_000_000
Image.init()
_READS = ("JPEG", "PNG", "WEBP", "TIFF", "BMP", "GIF")


class Photograph(NamedTuple):
    """``data`` is a JPEG (ISO/IEC 10918-1) with nothing in it but the picture, the right way up."""

    data: bytes
    width: int
    height: int


def photograph(data: bytes, name: str) -> Photograph:
    """A picture made anew. Raises :class:`InputError` for what is none, or too large."""
    if len(data) > MOST_BYTES:
        raise InputError(f"larger than {MOST_BYTES // 2**20} MB", name, "Take it at a smaller size.")
    try:
        with Image.open(io.BytesIO(data), formats=_READS) as found:
            if found.width * found.height > MOST_PIXELS:
                raise InputError(f"{found.width} × {found.height} pixels", name, "Take it at a smaller size.")
            found.draft("RGB", (LONGEST, LONGEST))
            upright = ImageOps.exif_transpose(found).convert("RGB")
    except InputError:
        raise
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise InputError("no picture that can be read", name, "Send a JPEG, PNG or WebP.") from error
    upright.thumbnail((LONGEST, LONGEST))
    # A new picture of the same pixels: nothing that came with the old one is carried over.
    clean = Image.new("RGB", upright.size)
    clean.paste(upright)
    out = io.BytesIO()
    clean.save(out, "JPEG", quality=82, optimize=True)
    return Photograph(out.getvalue(), *clean.size)
