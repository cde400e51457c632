"""Where a house keeps its things: the folder of its database, photographs and key. The demo's and a workshop's are two."""

import os
from pathlib import Path

from django.core.exceptions import ImproperlyConfigured

ROOT = Path(__file__).resolve().parents[2]
#: The web build: in a checkout where it is built, in an installed package beside the code.
WEB = next((p for p in (ROOT / "web" / "dist", ROOT / "insertum" / "web") if p.is_dir()), ROOT / "web" / "dist")


def var() -> Path:
    """The folder: what ``INSERTUM_VAR`` names, else the demo's or the workshop's own; never one for both."""
    told = os.environ.get("INSERTUM_VAR")
    if told:
        return Path(told).resolve()
    if os.environ.get("INSERTUM_DEMO") == "1":
        return ROOT / "var"
    return ROOT / "workshop" if (ROOT / "manage.py").exists() else Path.home() / "insertum"


VAR = var()


def made(folder: Path) -> Path:
    """A folder only its owner looks into."""
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    return folder


def listed(name: str) -> list[str]:
    """A setting that is a list with commas, empty where it is not set."""
    return [x.strip() for x in os.environ.get(name, "").split(",") if x.strip()]


def secret_key() -> str:
    """The house's own key. Raises :class:`ImproperlyConfigured` where there is none: nothing runs on a known one."""
    told = os.environ.get("INSERTUM_SECRET_KEY")
    path = VAR / "secret_key"
    if not told and path.is_file():
        told = path.read_text().strip()
    if not told:
        raise ImproperlyConfigured(
            f"no key in {path}: start with `insertum serve`, which makes one, or set INSERTUM_SECRET_KEY"
        )
    return told
