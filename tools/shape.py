"""``make shape``: the structure in figures, as a table; what the tests hold it to stands in ``tests/shape``."""

import ast
import re
import statistics
from collections import defaultdict
from collections.abc import Iterator
from functools import cache, lru_cache
from pathlib import Path

ROOT = Path(__file__).parent.parent
SOURCE = ROOT / "src" / "squall"
# Compiled loops: one long function each, by need.
KERNELS = (
    "core/drive/kernels.py",
    "core/drive/line_kernels.py",
    "core/faults/kernels.py",
    "core/faults/panel_kernels.py",
    "core/years/day_kernels.py",
    "core/years/kernels.py",
)


def modules() -> dict[str, Path]:
    """Every module of the application by its name, packages left out."""
    return {
        "squall." + path.relative_to(SOURCE).with_suffix("").as_posix().replace("/", "."): path
        for path in sorted(SOURCE.rglob("*.py"))
        if path.name != "__init__.py"
    }


@lru_cache(maxsize=512)
def tree(path: Path) -> ast.Module:
    """The syntax of a file."""
    return ast.parse(path.read_text("utf8"))


def arrows() -> dict[str, set[str]]:
    """Which module imports which."""
    known = modules()
    found: dict[str, set[str]] = defaultdict(set)
    for name, path in known.items():
        for node in ast.walk(tree(path)):
            if isinstance(node, ast.ImportFrom) and node.module and node.module.startswith("squall"):
                for alias in node.names:
                    full = f"{node.module}.{alias.name}"
                    target = full if full in known else node.module
                    if target in known and target != name:
                        found[name].add(target)
    return found


def depth() -> tuple[int, list[str]]:
    """The longest chain of imports, and the modules along it."""
    found = arrows()

    @cache
    def chain(name: str) -> tuple[str, ...]:
        return (name, *max((chain(other) for other in sorted(found[name])), key=len, default=()))

    longest = max((chain(name) for name in modules()), key=len)
    return len(longest), list(longest)


def functions() -> Iterator[tuple[Path, ast.FunctionDef, int]]:
    """Every function with the lines of its body, its docstring not counted."""
    for path in modules().values():
        for node in ast.walk(tree(path)):
            if isinstance(node, ast.FunctionDef):
                body = node.body[1:] if ast.get_docstring(node) is not None else node.body
                lines = (node.end_lineno or 0) - body[0].lineno + 1 if body else 0
                yield path, node, lines


def is_kernel(path: Path) -> bool:
    """Whether a file holds compiled loops."""
    return path.relative_to(SOURCE).as_posix() in KERNELS


def parameters(node: ast.FunctionDef) -> int:
    """How many parameters a function has, itself not counted."""
    args = node.args
    names = [a.arg for a in (*args.posonlyargs, *args.args, *args.kwonlyargs)]
    return len([name for name in names if name not in ("self", "cls")])


def lines_of(folder: Path, *endings: str) -> int:
    """Lines that are not empty, of files with some endings; what is vendored is left out."""
    return sum(
        1
        for path in folder.rglob("*")
        if path.suffix in endings and "vendor" not in path.parts
        for line in path.read_text("utf8").splitlines()
        if line.strip()
    )


def doctests() -> int:
    """Functions of the core whose docstring has an example."""
    return sum(">>>" in (ast.get_docstring(node) or "") for path, node, _ in functions() if "core" in path.parts)


def report() -> Iterator[tuple[str, str]]:
    """Rows of the table: what, and how much."""
    packages: dict[str, int] = defaultdict(int)
    for name in modules():
        packages[name.rpartition(".")[0]] += 1
    widest = sorted(packages.items(), key=lambda row: -row[1])[:4]
    yield "modules, packages", f"{len(modules())}, {len(packages)}"
    yield "largest packages", ", ".join(f"{name.removeprefix('squall.')} {count}" for name, count in widest)
    between = {(a.split(".")[1], b.split(".")[1]) for a, bs in arrows().items() for b in bs}
    yield (
        "arrows between modules, between rooms",
        f"{sum(map(len, arrows().values()))}, {sum(a != b for a, b in between)}",
    )
    longest, chain = depth()
    yield "import depth", f"{longest}: {' > '.join(name.removeprefix('squall.') for name in chain)}"
    long_files = sorted(((len(p.read_text("utf8").splitlines()), p) for p in modules().values()), reverse=True)
    yield (
        "files of 400 lines or more",
        ", ".join(f"{p.relative_to(SOURCE)} {n}" for n, p in long_files if n >= 400) or "none",
    )
    bodies = [(lines, f"{p.relative_to(SOURCE)}:{f.name}") for p, f, lines in functions() if not is_kernel(p)]
    yield "function bodies, median lines", f"{statistics.median(lines for lines, _ in bodies):g}"
    yield (
        "function bodies over 60",
        ", ".join(f"{name} {n}" for n, name in sorted(bodies, reverse=True) if n > 60) or "none",
    )
    many = [(parameters(f), f"{p.relative_to(SOURCE)}:{f.name}") for p, f, _ in functions() if not is_kernel(p)]
    yield (
        "more than 7 parameters",
        ", ".join(f"{name} {n}" for n, name in sorted(many, reverse=True) if n > 7) or "none",
    )
    loose = {p: len(re.findall(r"dict\[str, Any\]", p.read_text("utf8"))) for p in modules().values()}
    yield (
        "dict[str, Any]",
        f"{sum(loose.values())}, in "
        + ", ".join(f"{p.relative_to(SOURCE)} {n}" for p, n in sorted(loose.items(), key=lambda row: -row[1])[:6] if n),
    )
    yield "core functions with an example", str(doctests())
    code = lines_of(SOURCE, ".py", ".html", ".js", ".css", ".sql") + lines_of(ROOT / "tools", ".py")
    tests = lines_of(ROOT / "tests", ".py")
    yield "tests in all code", f"{tests / (tests + code):.1%} of {tests + code:,} lines"


def main() -> None:
    """Print the table."""
    for what, how_much in report():
        print(f"{what:40} {how_much}")


if __name__ == "__main__":
    main()
