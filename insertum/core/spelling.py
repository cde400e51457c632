"""What labels get wrong, and never matters."""

import re

_FOLD = str.maketrans("OIL", "011")


def folded(text: str) -> str:
    """Letters and digits alone, with O as 0 and I, L as 1: what labels get wrong."""
    return re.sub(r"[^A-Z0-9]", "", text.upper()).translate(_FOLD)
