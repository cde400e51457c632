"""The API parses, calls one use case and returns: of the core it takes shapes alone, and nothing in it computes."""

import ast
import importlib
import inspect
from enum import Enum
from pathlib import Path
from typing import Any, get_args, get_origin

import pytest
from pydantic import BaseModel

import insertum.api
from insertum.api import api

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


def _shapes(annotation: Any, found: set[type[BaseModel]]) -> None:
    """Every shape an annotation leads to, its fields' too."""
    if isinstance(annotation, type) and issubclass(annotation, BaseModel) and annotation not in found:
        found.add(annotation)
        for field in annotation.model_fields.values():
            _shapes(field.annotation, found)
    for inner in (*get_args(annotation), *filter(None, [getattr(annotation, "__value__", None)])):
        _shapes(inner, found)


def test_no_two_shapes_of_the_document_have_one_name() -> None:
    """The document names a shape by its class alone: of two the later would take the other's place, and nobody be told."""
    found: set[type[BaseModel]] = set()
    for _, router in api._routers:
        for path in router.path_operations.values():
            for operation in path.operations:
                for model in (*operation.models, *operation.response_models.values()):
                    _shapes(model, found)
    ours: dict[str, set[str]] = {}
    for shape in found:
        if shape.__module__.startswith("insertum"):
            ours.setdefault(shape.__name__, set()).add(shape.__module__)
    assert len(ours) > 100 and {"FitsPaper", "Paper", "AskAnswer"} <= ours.keys()
    assert {name: places for name, places in ours.items() if len(places) > 1} == {}
