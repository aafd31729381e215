"""Where the code can be made wrong, and how: operators of cosmic-ray, those that only crash left out."""

from __future__ import annotations

import ast
import functools
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from cosmic_ray.ast import ast_nodes, get_ast
from cosmic_ray.mutating import mutate_code
from cosmic_ray.plugins import get_operator

SOURCE = Path("src")

# A number divided by a mask or shifted by a float stops at once and would be noticed by any test;
# what is left gives an answer, and a wrong one.
OPERATORS = (
    "NumberReplacer", "AddNot", "ReplaceTrueWithFalse", "ReplaceFalseWithTrue", "ReplaceAndWithOr",
    "ReplaceOrWithAnd", "ReplaceBreakWithContinue", "ReplaceContinueWithBreak", "ZeroIterationForLoop",
    *(f"ReplaceBinaryOperator_{old}_{new}" for old, new in (
        ("Add", "Sub"), ("Sub", "Add"), ("Mul", "Div"), ("Div", "Mul"), ("Pow", "Mul"), ("FloorDiv", "Mul"),
        ("Mod", "FloorDiv"), ("BitAnd", "BitOr"), ("BitOr", "BitAnd"), ("BitXor", "BitAnd"))),
    *(f"ReplaceComparisonOperator_{old}_{new}" for old, new in (
        ("Lt", "LtE"), ("Lt", "GtE"), ("LtE", "Lt"), ("LtE", "Gt"), ("Gt", "GtE"), ("Gt", "LtE"),
        ("GtE", "Gt"), ("GtE", "Lt"), ("Eq", "NotEq"), ("NotEq", "Eq"), ("Is", "IsNot"), ("IsNot", "Is"))),
    *(f"ReplaceUnaryOperator_Delete_{old}" for old in ("USub", "Invert", "Not")),
)  # fmt: skip


@dataclass(frozen=True, order=True)
class Place:
    """One change of one file: the n-th place (from 0) to which an operator can be applied."""

    path: str
    line: int
    column: int
    operator: str
    occurrence: int

    @property
    def module(self) -> str:
        """Dotted name of the module."""
        parts = Path(self.path).relative_to(SOURCE).with_suffix("").parts
        return ".".join(parts[:-1] if parts[-1] == "__init__" else parts)

    def mutated(self) -> str:
        """The file's code with the change made."""
        code = mutate_code(Path(self.path).read_text("utf-8"), _operator(self.operator), self.occurrence)
        if code is None:
            raise LookupError(f"{self} is not there")
        return str(code)

    def shown(self) -> str:
        """The line before and after."""
        before = Path(self.path).read_text("utf-8").splitlines()
        after = self.mutated().splitlines()
        return f"{before[self.line - 1].strip()}  →  {after[self.line - 1].strip()}"


@functools.cache
def _operator(name: str) -> object:
    return get_operator(f"core/{name}")()


def _asleep(path: Path) -> Iterator[tuple[tuple[int, int], tuple[int, int]]]:
    """Stretches of code that never run or only guard: annotations, frozen classes, strict pairs."""
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        parts: list[ast.expr | ast.stmt | None] = []
        if isinstance(node, ast.AnnAssign):
            parts = [node.annotation]
        elif isinstance(node, ast.FunctionDef):
            parts = [node.returns, *(a.annotation for a in ast.walk(node.args) if isinstance(a, ast.arg))]
        elif isinstance(node, ast.If) and "TYPE_CHECKING" in ast.unparse(node.test):
            parts = [node]
        elif isinstance(node, ast.ClassDef):
            parts = list(node.decorator_list)
        elif isinstance(node, ast.Call):
            parts = [k.value for k in node.keywords if k.arg == "strict"]
        for part in parts:
            if part is not None and part.end_lineno is not None and part.end_col_offset is not None:
                yield (part.lineno, part.col_offset), (part.end_lineno, part.end_col_offset)


def places_in(path: Path) -> list[Place]:
    """Every place of a file."""
    asleep = list(_asleep(path))
    tree = get_ast(path.read_text("utf-8"))
    found = []
    for name in OPERATORS:
        operator = _operator(name)
        positions = [p for node in ast_nodes(tree) for p in operator.mutation_positions(node)]  # type: ignore[attr-defined]
        for occurrence, ((line, column), _) in enumerate(positions):
            if not any(start <= (line, column) < end for start, end in asleep):
                found.append(Place(path.as_posix(), line, column, name, occurrence))
    return sorted(found)


def all_places(part: str) -> list[Place]:
    """Every place of the modules below a dotted name, “core” or “core.paint.solver”."""
    below = SOURCE / "truesitter" / part.removeprefix("truesitter.").replace(".", "/")
    files = sorted(below.rglob("*.py")) if below.is_dir() else [below.with_suffix(".py")]
    return [place for file in files for place in places_in(file)]
