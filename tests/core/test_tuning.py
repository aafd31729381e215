"""Numbers live in the tuning table of their folder, each with what it means."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

import truesitter.core

CORE = Path(truesitter.core.__file__).parent
ELSEWHERE = {
    "sitter/face.py",  # numbers of the points of the mesh
    "colour/spaces.py",  # of the standards
    "paint/media/media_table.py",  # hour and day
    "school/school_document.py",
    "plan/clock/schedule.py",
}
TABLES = sorted(CORE.rglob("tuning.py"))


def _is_numeric(value: ast.expr) -> bool:
    if isinstance(value, ast.Constant):
        return isinstance(value.value, int | float) and not isinstance(value.value, bool)
    if isinstance(value, ast.UnaryOp):
        return _is_numeric(value.operand)
    if isinstance(value, ast.BinOp):
        return _is_numeric(value.left) and _is_numeric(value.right)
    return isinstance(value, ast.Tuple) and bool(value.elts) and all(map(_is_numeric, value.elts))


def _numbers(path: Path) -> Iterator[tuple[ast.stmt, ast.stmt | None]]:
    body = ast.parse(path.read_text(encoding="utf-8")).body
    for number, statement in enumerate(body):
        value = statement.value if isinstance(statement, ast.Assign | ast.AnnAssign) else None
        if value is not None and _is_numeric(value):
            yield statement, body[number + 1] if number + 1 < len(body) else None


@pytest.mark.parametrize("table", TABLES, ids=lambda p: p.parent.relative_to(CORE).as_posix())
def test_each_number_says_what_it_is(table: Path) -> None:
    bare = [
        ast.unparse(statement)
        for statement, after in _numbers(table)
        if not (isinstance(after, ast.Expr) and isinstance(after.value, ast.Constant))
    ]
    assert not bare


@pytest.mark.parametrize("table", TABLES, ids=lambda p: p.parent.relative_to(CORE).as_posix())
def test_no_name_is_given_twice(table: Path) -> None:
    """The second would quietly change what uses the first."""
    given = [
        name.id
        for statement in ast.parse(table.read_text(encoding="utf-8")).body
        if isinstance(statement, ast.Assign | ast.AnnAssign)
        for target in (statement.targets if isinstance(statement, ast.Assign) else [statement.target])
        for name in ast.walk(target)
        if isinstance(name, ast.Name)
    ]
    assert len(given) == len(set(given))


def test_no_number_is_kept_elsewhere() -> None:
    found = [
        f"{path.relative_to(CORE)}: {ast.unparse(statement)}"
        for path in sorted(CORE.rglob("*.py"))
        if path.name != "tuning.py" and path.relative_to(CORE).as_posix() not in ELSEWHERE
        for statement, _ in _numbers(path)
    ]
    assert not found


def test_every_number_is_used() -> None:
    sources = {path: path.read_text(encoding="utf-8") for path in CORE.parent.rglob("*.py")}
    unused = []
    for table in TABLES:
        module = ".".join(table.relative_to(CORE.parents[1]).with_suffix("").parts)
        users = [text for text in sources.values() if f"from {module} import" in text]
        for statement, _ in _numbers(table):
            for name in re.findall(r"[A-Z][A-Z0-9_]*", ast.unparse(statement).split("=")[0]):
                own = len(re.findall(rf"\b{name}\b", sources[table]))
                if own == 1 and not any(re.search(rf"\b{name}\b", text) for text in users):
                    unused.append(f"{module}: {name}")
    assert not unused
