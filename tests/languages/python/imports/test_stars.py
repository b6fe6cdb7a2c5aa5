from __future__ import annotations

import importlib
from pathlib import Path

import pytest

from aedifex.languages.python.imports.stars import StarImports
from aedifex.program.model.names import Origin
from tests.support.helpers import module_of

HERE = Path("/nowhere")


@pytest.mark.parametrize(
    "name",
    [
        "math",
        "time",
        "turtle",
        "tkinter",
        "string",
        "os",
        "random",
        "json",
        "asyncio",
        "tkinter.ttk",
        "textwrap",
        "ctypes.wintypes",
    ],
)
def test_names_are_those_that_importing_brings(name):
    try:
        module = importlib.import_module(name)
    except ImportError:
        pytest.skip(f"no {name} here")
    ours = StarImports().names(name, HERE)
    if hasattr(module, "__all__"):
        assert ours is None or ours == set(module.__all__)
    else:
        assert ours is not None
        public = {n for n in vars(module) if not n.startswith("_")}
        assert public <= ours


def test_a_compiled_or_missing_module_is_not_known():
    assert StarImports().names("math_that_is_not_there", HERE) is None
    module = module_of("from nothing_here import *\nprint(sail)\n")
    assert next(r for r in module.references if r.name == "sail").symbol.origin is Origin.PERHAPS_STAR
    assert "nothing_here" in module.hindrances[0].reason
    assert module.hindrances[0].may_touch("sail")
    assert not module.hindrances[0].may_touch("print")


def test_names_used_through_a_star_are_imports():
    module = module_of("from turtle import *\nforward(10)\nprint(len('a'))\n")
    symbol = next(r for r in module.references if r.name == "forward").symbol
    assert symbol.imported == ("turtle", "forward")


@pytest.mark.parametrize(
    ("text", "names"),
    [
        ("__all__ = ['a']\n__all__ += ['b']\n__all__.extend(['c'])\n__all__.append('d')\n", "abcd"),
        ("_x = ['a', 'b']\n__all__ = _x + ['c']\n", "abc"),
        ("import part\n__all__ = ['a', *part.__all__]\n", "ayz"),
        ("from part import *\nb = 1\n_c = 2\n", "bxyz"),
        ("def a(): pass\nclass b: pass\nimport c.d\nfor e in []: pass\nwith f as g: pass\n", "abceg"),
        ("try:\n    import a\nexcept ImportError as e:\n    a = None\n", "ae"),
    ],
)
def test_lists_of_names_are_followed(tmp_path, text, names):
    (tmp_path / "whole.py").write_text(text)
    (tmp_path / "part.py").write_text("__all__ = ('y', 'z')\n" if "part.__all__" in text else "x = y = z = 1\n")
    assert StarImports([]).names("whole", tmp_path) >= set(names) - {"e"}


def test_a_list_that_is_computed_is_not_known(tmp_path):
    (tmp_path / "whole.py").write_text("__all__ = [n for n in dir() if n]\n")
    assert StarImports([]).names("whole", tmp_path) is None


def test_circles_of_star_imports_end(tmp_path):
    (tmp_path / "a.py").write_text("from b import *\nx = 1\n")
    (tmp_path / "b.py").write_text("from a import *\ny = 1\n")
    StarImports([]).names("a", tmp_path)


def test_another_interpreter_has_its_own_library(tmp_path):
    import sys

    import pytest

    from aedifex.languages.python import DIALECT
    from aedifex.source.errors import RunError

    assert DIALECT.files.of_interpreter(sys.executable).files.stars.names("turtle", HERE) == StarImports().names(
        "turtle", HERE
    )
    with pytest.raises(RunError, match="cannot be asked"):
        DIALECT.files.of_interpreter(str(tmp_path / "nothing"))


@pytest.mark.parametrize(
    ("tests", "names"),
    [
        ("if not name.startswith('_')", {"Buoy", "moor", "types", "os", "LIMIT"}),
        ("if not name.startswith('_') and not isinstance(obj, types.ModuleType)", {"Buoy", "moor", "LIMIT"}),
        ("if not name.startswith('_') if name not in {'LIMIT', 'os'}", {"Buoy", "moor", "types"}),
        ("if not name.startswith('_') or name == '_own'", None),
        ("if name.isupper()", None),
    ],
)
def test_names_that_a_module_lists_by_sifting_its_own(tmp_path, tests, names):
    lines = ["import types, os", "LIMIT = 3", "_own = [each for each in 'ab']", "class Buoy: pass", "def moor(): pass"]
    lines.append(f"__all__ = [name for name, obj in globals().items() {tests}]")
    (tmp_path / "buoys.py").write_text("\n".join([*lines, "later = 1", ""]))
    ours = StarImports().names("buoys", tmp_path)
    assert ours == names
    if names is not None:
        space: dict[str, object] = {"__name__": "buoys"}
        exec((tmp_path / "buoys.py").read_text(), space)
        assert ours == set(space["__all__"])
