"""The core is a wall: each module imports alone, and nothing above it comes along."""

import ast
import collections
import graphlib
import pathlib
import pkgutil
import re
import subprocess
import sys

import reckoner.core

FORBIDDEN = {"PyQt6", "sqlalchemy", "alembic", "serial", "pydantic"}


def test_each_core_module_imports_in_a_fresh_interpreter_without_the_world_above():
    names = [module.name for module in pkgutil.walk_packages(reckoner.core.__path__, "reckoner.core.")]
    assert len(names) > 40
    script = (
        "import sys, importlib\n"
        f"for name in {names!r}:\n"
        "    for loaded in [m for m in sys.modules if m.startswith('reckoner')]: del sys.modules[loaded]\n"
        "    importlib.import_module(name)\n"
        f"print(sorted({FORBIDDEN!r} & {{m.split('.')[0] for m in sys.modules}}), 'scipy.stats' in sys.modules)\n"
    )
    found = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
    assert found.stdout.strip() == "[] False"


def test_each_public_function_of_the_core_says_what_it_refuses():
    silent = []
    for path in pathlib.Path(reckoner.core.__path__[0]).rglob("*.py"):
        module = ast.parse(path.read_text())
        if "refuses" in (ast.get_docstring(module) or ""):
            continue  # said once for all that stands there
        for node in module.body:
            told = ast.get_docstring(node) or "" if isinstance(node, ast.FunctionDef) else "Raises"
            if not (node.__dict__.get("name", "_").startswith("_") or re.search("[Rr]aises|Refuses|rrors as", told)):
                silent.append(f"{path.name}: {node.name}")
    assert silent == []


def test_no_two_classes_have_one_name():
    """One name, one meaning, in the whole program; what a newcomer searches for is found once."""
    root = pathlib.Path(reckoner.core.__file__).parents[1]
    found = collections.defaultdict(list)
    for path in root.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.ClassDef):
                found[node.name].append(path.name)
    assert {name: where for name, where in found.items() if len(where) > 1} == {}


def imported(path, package):
    """The modules of the program that a module imports, at its top or where it needs them; not what only types name."""
    found, left = set(), list(ast.parse(path.read_text()).body)
    while left:
        match left.pop():
            case ast.If(test=ast.Name(id="TYPE_CHECKING")):
                pass
            case ast.ImportFrom(module=str(module), names=names) if module.startswith(package):
                found |= {f"{module}.{one.name}" for one in names} | {module}
            case other:
                left += ast.iter_child_nodes(other)
    return found


def test_no_modules_import_each_other_in_a_circle():
    root = pathlib.Path(reckoner.core.__file__).parents[1]
    paths = {
        ".".join(("reckoner", *path.relative_to(root).with_suffix("").parts)).removesuffix(".__init__"): path
        for path in root.rglob("*.py")
    }
    packages = {name for name, path in paths.items() if path.name == "__init__.py"}
    graph = {}
    for name, path in paths.items():
        found = imported(path, "reckoner") & paths.keys()
        of_it = {one for one in found if any(other.startswith(f"{one}.") for other in found)}  # a name out of a package
        graph[name] = found - {name} - (of_it & packages)
    order = list(graphlib.TopologicalSorter(graph).static_order())  # raises CycleError, which names the circle
    assert len(order) > 300
