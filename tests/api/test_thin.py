"""The API parses, calls one use case and returns: of the core it takes shapes alone, and nothing in it computes."""

import ast
import importlib
import inspect
from enum import Enum
from pathlib import Path
from typing import Any, get_origin

import pytest
from pydantic import BaseModel

import insertum.api

HOME = Path(insertum.api.__file__).parent
#: Whether characters are whole is looked at before anything is parsed.
MAY = {("core.errors", "whole_text")}


def is_shape(thing: Any) -> bool:
    """A model, an enumeration, an error, a tuple with names, or a list of words."""
    if inspect.isclass(thing):
        return issubclass(thing, BaseModel | Enum | Exception | tuple)
    return get_origin(thing) is not None


@pytest.mark.parametrize("path", sorted(HOME.glob("*.py")), ids=lambda p: p.name)
def test_the_api_takes_only_shapes_of_the_core(path: Path) -> None:
    computing = []
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.ImportFrom) and node.level == 2 and (node.module or "").split(".")[0] == "core":
            module = importlib.import_module(f"insertum.{node.module}")
            names = [a.name for a in node.names if (node.module, a.name) not in MAY]
            computing += [f"{node.module}.{n}" for n in names if not is_shape(getattr(module, n, None))]
    assert not computing, f"{path.name} takes what computes: move it to a use case of the shop"
