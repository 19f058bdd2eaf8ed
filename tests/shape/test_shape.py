"""The structure that the house style promises: held here, and told as a table by ``make shape``."""

import ast
import doctest
import importlib
import re
import subprocess
import sys
from pathlib import Path

import pytest

from squall.job.stages import STAGES

ROOT = Path(__file__).parents[2]
sys.path.insert(0, str(ROOT / "tools"))
import shape  # noqa: E402

CORE = {name: path for name, path in shape.modules().items() if name.startswith("squall.core.")}


def public_functions():
    """Functions of the core that others may call: module, node."""
    for name, path in CORE.items():
        for node in shape.tree(path).body:
            if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
                yield name, node


def documented(node: ast.FunctionDef) -> list[str] | None:
    """Parameter names that a docstring's section tells of, or None without one."""
    text = ast.get_docstring(node) or ""
    found = re.search(r"Parameters\n-+\n(.*?)(?:\n\n[A-Z][a-z]+\n-+\n|\Z)", text, re.DOTALL)
    if found is None:
        return None
    rows = re.findall(r"^(\w[\w, *]*?)(?: :.*)?$", found.group(1), re.MULTILINE)
    return [name.strip(" *") for row in rows for name in row.split(",")]


def own_parameters(node: ast.FunctionDef) -> list[str]:
    """Names of a function's parameters in their order."""
    args = node.args
    every = [*args.posonlyargs, *args.args, *args.kwonlyargs]
    return [a.arg for a in every if a.arg not in ("self", "cls")]


@pytest.mark.parametrize("name", sorted(CORE))
def test_every_public_function_of_the_core_is_documented_by_its_own_names(name):
    wrong = []
    for module, node in public_functions():
        if module != name:
            continue
        told, own = documented(node), own_parameters(node)
        if ast.get_docstring(node) is None:
            wrong.append(f"{node.name} has no docstring")
        elif told is not None and told != own:
            wrong.append(f"{node.name} tells of {told}, takes {own}")
        elif told is None and len(own) >= 5 and not shape.is_kernel(CORE[module]):
            wrong.append(f"{node.name} takes {len(own)} parameters and tells of none")
    assert not wrong, "\n".join(wrong)


def numeric(node: ast.FunctionDef) -> bool:
    """Whether a function takes or gives plain numbers, which mean nothing without a unit."""
    told = [a.annotation for a in [*node.args.args, *node.args.kwonlyargs]] + [node.returns]
    return any(re.search(r"\bfloat\b|\bFloats\b|NDArray\[np\.float", ast.unparse(part)) for part in told if part)


def public_methods():
    """Methods of public classes of the core: module, node."""
    for name, path in CORE.items():
        for holder in shape.tree(path).body:
            if isinstance(holder, ast.ClassDef) and not holder.name.startswith("_"):
                for node in holder.body:
                    if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
                        yield name, node


def test_whatever_takes_or_gives_a_number_says_its_unit():
    without = [
        f"{module}.{node.name}"
        for module, node in [*public_functions(), *public_methods()]
        if numeric(node) and not re.search(r"\[[^\]]+\]", ast.get_docstring(node) or "")
    ]
    assert not without, "\n".join(without)


def test_every_public_method_of_the_core_has_a_docstring():
    without = [f"{module}.{node.name}" for module, node in public_methods() if ast.get_docstring(node) is None]
    assert not without, "\n".join(without)


# Says where a law comes from: a work, a standard, a library that solves it, or that nobody stands behind it.
SOURCE = re.compile(
    r"\b(1[89]|20)\d\d\b|ASTM|IEC|ISO|FAO|SciPy|pvlib|fluids|handbook|common practice|memory|by definition",
    re.IGNORECASE,
)
# Rooms whose modules reckon by laws of nature or of the trade; the others carry their answers about.
LAWS = ("hydraulics", "electrics", "sky", "sources", "need")


def test_every_module_that_holds_a_law_names_where_it_comes_from():
    silent = [
        name
        for name, path in CORE.items()
        if name.split(".")[2] in LAWS and not path.name.startswith("__") and not SOURCE.search(path.read_text("utf8"))
    ]
    assert not silent, "\n".join(silent)


def test_examples_of_the_core_are_true_and_at_least_forty():
    tried = failed = 0
    for name in CORE:
        result = doctest.testmod(importlib.import_module(name), optionflags=doctest.NORMALIZE_WHITESPACE)
        tried, failed = tried + result.attempted, failed + result.failed
    assert failed == 0
    assert shape.doctests() >= 40
    assert tried >= shape.doctests()


def strings_of(tree: ast.Module):
    """Text constants of a module but its docstrings."""
    quiet = {
        id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)
    }
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in quiet:
            yield node


# Names of a table's columns, of types, of kinds of quantity: one word, or words that no sentence is made of.
DATA = {
    "float switch",
    "pressure switch",
    "radio switch",
    "penman-monteith, hargreaves",
    "list[YearLight] | LazyYears",
    "Powered | None",
}


def test_the_core_has_no_string_for_people():
    found = [
        f"{name}:{node.lineno} {node.value!r}"
        for name, path in CORE.items()
        for node in strings_of(shape.tree(path))
        if len(re.findall(r"[A-Za-z]{2,}", node.value)) >= 2 and " " in node.value.strip() and node.value not in DATA
    ]
    assert not found, "\n".join(found)


def test_every_code_that_the_core_gives_has_a_sentence():
    from squall.words.reasons import SENTENCES

    given = [
        (f"{name}:{node.lineno}", node.args[0].value)
        for name, path in CORE.items()
        for node in ast.walk(shape.tree(path))
        if isinstance(node, ast.Call)
        and getattr(node.func, "id", "") in ("Reason", "OutOfRange", "require")
        and node.args
        and isinstance(node.args[0], ast.Constant)
    ]
    assert len(given) > 150
    missing = [f"{where} {code}" for where, code in given if code not in SENTENCES]
    assert not missing, "\n".join(missing)


def test_files_functions_and_packages_stay_small():
    packages: dict[str, int] = {}
    for name in shape.modules():
        room = name.rpartition(".")[0]
        packages[room] = packages.get(room, 0) + 1
    # Where each stage and each page under one is a module of its own, as many as there are stages.
    most = {"squall.web.stages": len(STAGES) + 1}
    assert {room: count for room, count in packages.items() if count > most.get(room, 16)} == {}
    lines = {p: len(p.read_text("utf8").splitlines()) for p in shape.modules().values()}
    assert {p.name: n for p, n in lines.items() if n >= 400} == {}
    long = {f.name: n for p, f, n in shape.functions() if n > 60 and not shape.is_kernel(p)}
    assert long == {}
    many = {f.name for p, f, _ in shape.functions() if shape.parameters(f) > 7 and not shape.is_kernel(p)}
    assert many <= TAKE_MANY


# One more than seven: a formula of a standard with all its terms; the limits of a controller against those of a string;
# long work, which brings how it tells of itself and is stopped along with what it works on.
TAKE_MANY = {"penman_monteith", "string_window", "run_years", "run_trials", "choice_range"}


def test_every_picture_is_linked_from_the_readme() -> None:
    readme = (ROOT / "README.md").read_text("utf8")
    pictures = sorted(path.name for path in (ROOT / "docs" / "screenshots").glob("*.png"))
    assert 0 < len(pictures) < 20
    assert [name for name in pictures if f"docs/screenshots/{name}" not in readme] == []
    assert [name for name in re.findall(r"docs/screenshots/([\w-]+\.png)", readme) if name not in pictures] == []


def test_the_list_comes_before_the_compiler() -> None:
    """What compiles takes a second to load: no part of the application asks for it before a sum does."""
    asked = "import sys, squall.web.app; sys.exit('numba' in sys.modules)"
    assert subprocess.run([sys.executable, "-c", asked], check=False).returncode == 0


def test_a_why_that_opens_ends_its_paragraph() -> None:
    """The box of a why is a block: in a paragraph it ends it, and what follows would stand loose beneath."""
    opens = re.compile(r"<p\b[^>]*>(?:(?!</p>).)*?(?:m\.why\((?:(?!\}\}).)*\}\}|endcall %\})((?:(?!</p>).)*)</p>", re.S)
    loose = [
        f"{path.name}: {after.strip()[:60]}"
        for path in (ROOT / "src" / "squall" / "web" / "templates").rglob("*.html")
        for after in opens.findall(path.read_text(encoding="utf-8"))
        if re.sub(r"\{%.*?%\}|\s", "", after)
    ]
    assert not loose
