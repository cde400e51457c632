"""On the path of an interpreter that is to have no Django: nothing of it, and nothing of what needs it, can be imported."""

import sys
from importlib.abc import MetaPathFinder

GONE = {
    "django",
    "ninja",
    "axes",
    "csp",
    "gunicorn",
    "whitenoise",
    "playwright",
    "pytest_django",
    "PIL",
    "python_calamine",
    "segno",
}


class Gone(MetaPathFinder):
    def find_spec(self, name: str, path: object = None, target: object = None) -> None:
        if name.partition(".")[0] in GONE:
            raise ModuleNotFoundError(f"No module named {name!r}: the core stands alone", name=name)


sys.meta_path.insert(0, Gone())
