"""The registry of results: each is declared once, and every key follows from its declaration.

A declaration names the settings a result reads, the results it is made from and the version
of its computation. Memory keys, ETags and the browser's query keys are all made from it, so
that two equal keys mean two equal results. `Source.watch` lets a test see to it that a
computation reads nothing it did not declare.
"""

from __future__ import annotations

import hashlib
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from contextvars import copy_context
from dataclasses import dataclass, field
from functools import partial
from types import SimpleNamespace
from typing import Any, Concatenate, Generic, ParamSpec, Protocol, TypeVar, cast, overload

from pydantic import BaseModel

from truesitter.core.graph.memo import Memo
from truesitter.core.pace.own_pace import OwnPace
from truesitter.core.refusal import Refusal
from truesitter.core.settings import StudySettings

P = ParamSpec("P")
T = TypeVar("T")
Needs = tuple[str, ...]


@dataclass(frozen=True)
class Declaration:
    """What something computed depends on.

    Attributes
    ----------
    name
        Unlike any other's.
    settings
        Dotted paths of the settings it reads; a path of a stage alone means all of it.
    needs
        Names of the results it is made from, or a function that gives them for some settings.
        ``photograph bytes`` stands for the photograph itself, ``own pace`` for the painter's.
    version
        To be raised when the computation changes.
    """

    name: str
    settings: tuple[str, ...] = ()
    needs: Needs | Callable[[StudySettings], Needs] = ()
    version: int = 1

    def needed(self, settings: StudySettings) -> Needs:
        """Names of the results it is made from under these settings."""
        return self.needs(settings) if callable(self.needs) else self.needs


PHOTOGRAPH = "photograph bytes"
OWN_PACE = "own pace"
_DECLARED: dict[str, Declaration] = {}


def declared(name: str) -> Declaration:
    """The declaration of a result."""
    return _DECLARED[name]


def all_declared() -> tuple[Declaration, ...]:
    """Every declaration of a result of the core."""
    return tuple(_DECLARED.values())


def read_path(settings: StudySettings, path: str) -> Any:
    """The value of a dotted path in the settings."""
    value: Any = settings
    for part in path.split("."):
        value = getattr(value, part)
    return value


def _text(value: Any) -> str:
    if isinstance(value, BaseModel):
        return value.model_dump_json()
    if isinstance(value, tuple):
        return "(" + ",".join(_text(v) for v in value) + ")"
    return repr(value)


def _quietly(ask: Callable[[], object]) -> None:
    with suppress(Exception):
        ask()


@dataclass
class Watch:
    """What a computation really read: for tests of the declarations."""

    settings: dict[str, set[str]] = field(default_factory=dict)
    needs: dict[str, set[str]] = field(default_factory=dict)
    under_way: list[str] = field(default_factory=list)

    def asks(self, name: str) -> None:
        """A result is asked for by the one under way."""
        if self.under_way:
            self.needs.setdefault(self.under_way[-1], set()).add(name)

    def reads(self, path: str) -> None:
        """A setting is read by the result under way."""
        if self.under_way:
            self.settings.setdefault(self.under_way[-1], set()).add(path)

    def compute(self, name: str, work: Callable[[], T]) -> T:
        """Do the work of a result under its name."""
        self.under_way.append(name)
        try:
            return work()
        finally:
            self.under_way.pop()


class _Seen:
    """One stage's settings whose every reading is noted; their own methods read through it too."""

    def __init__(self, model: BaseModel, stage: str, watch: Watch) -> None:
        self._model, self._stage, self._watch = model, stage, watch

    def __getattr__(self, name: str) -> Any:
        if name in type(self._model).model_fields:
            self._watch.reads(f"{self._stage}.{name}")
            return getattr(self._model, name)
        method = getattr(type(self._model), name)
        return partial(method, self) if callable(method) else getattr(self._model, name)


class Source:
    """What a study is made from, and the keys of its results.

    Parameters
    ----------
    sha256
        Hash of the photograph's bytes.
    load
        Gives the bytes when they are needed.
    settings
        What the painter set.
    memo
        Shared memory of results.
    watch
        Notes what computations read; for tests.
    paintings
        Gives the bytes of a photograph of the painting by their hash.
    pace
        What was learned of the painter's pace; None for nothing.
    """

    def __init__(
        self, sha256: str, load: Callable[[], bytes], settings: StudySettings, memo: Memo,
        watch: Watch | None = None, paintings: Callable[[str], bytes] | None = None,
        pace: OwnPace | None = None,
    ) -> None:  # fmt: skip
        self.sha256, self.settings, self.memo, self._load, self._watch = sha256, settings, memo, load, watch
        self._paintings = paintings
        self._pace = pace or OwnPace()
        self._keys: dict[str, str] = {PHOTOGRAPH: sha256, OWN_PACE: repr(self._pace)}
        self._texts: dict[str, str] = {}

    def load(self) -> bytes:
        """The photograph's bytes."""
        if self._watch:
            self._watch.asks(PHOTOGRAPH)
        return self._load()

    def own_pace(self) -> OwnPace:
        """What is known of the painter's pace."""
        if self._watch:
            self._watch.asks(OWN_PACE)
        return self._pace

    def load_painting(self, sha256: str) -> bytes:
        """The bytes of a photograph of the painting: the same hash always gives the same.

        Raises
        ------
        Refusal
            When there is none.
        """
        if self._paintings is None:
            raise Refusal("there is no photograph of the painting")
        return self._paintings(sha256)

    def stage(self, name: str) -> Any:
        """The settings of one stage."""
        settings = getattr(self.settings, name)
        return _Seen(settings, name, self._watch) if self._watch else settings

    def all_settings(self) -> Any:
        """The settings of every stage."""
        if not self._watch:
            return self.settings
        return SimpleNamespace(**{name: self.stage(name) for name in type(self.settings).model_fields})

    def key(self, name: str) -> str:
        """Key of a result; equal keys mean equal results."""
        if name not in self._keys:
            self._keys[name] = self.key_of(_DECLARED[name])
        return self._keys[name]

    def key_of(self, declaration: Declaration) -> str:
        """Key of anything declared."""
        parts = [declaration.name, str(declaration.version)]
        parts += [self._said(path) for path in declaration.settings]
        parts += [self.key(need) for need in declaration.needed(self.settings)]
        return hashlib.sha256("\n".join(parts).encode()).hexdigest()[:24]

    def _said(self, path: str) -> str:
        if path not in self._texts:
            self._texts[path] = _text(read_path(self.settings, path))
        return self._texts[path]

    @contextmanager
    def beside(self, ask: Callable[[], object]) -> Iterator[None]:
        """Have what is about to be asked for computed on another thread, while other things are done here.

        It is remembered and nothing else comes of it. What fails there fails again, and is told, where it is
        asked for here.
        """
        if self._watch:
            # What is read by whom can be told only one after the other.
            yield
            return

        thread = threading.Thread(target=copy_context().run, args=(_quietly, ask), daemon=True)
        thread.start()
        try:
            yield
        finally:
            thread.join()

    def ahead(self, ask: Callable[[], object]) -> None:
        """Have what will be asked for next computed meanwhile.

        It is remembered; what fails there fails again, and is told, where it is asked for.
        """
        if not self._watch:
            threading.Thread(target=copy_context().run, args=(_quietly, ask), daemon=True).start()

    def ask(self, name: str, args: tuple[Any, ...], work: Callable[[], T]) -> T:
        """A result, computed once for its key and arguments.

        Parameters
        ----------
        name
            Of the result.
        args
            Of the method, part of the key.
        work
            What computes it.

        Returns
        -------
        T
            As computed, read-only.
        """
        key = (self.key(name), args)
        if not self._watch:
            return self.memo.get(key, work)
        self._watch.asks(name)
        watch = self._watch
        return self.memo.get(key, lambda: watch.compute(name, work))


class HasSource(Protocol):
    """A stage of the study."""

    @property
    def source(self) -> Source:
        """Where its photograph and settings come from."""


S = TypeVar("S", bound=HasSource)


class Result(Generic[S, P, T]):
    """A declared result as a method of its stage: calling it gives the remembered one."""

    def __init__(self, declaration: Declaration, work: Callable[Concatenate[S, P], T]) -> None:
        if declaration.name in _DECLARED:
            raise ValueError(f"two results are called {declaration.name}")
        _DECLARED[declaration.name] = declaration
        self.declaration, self._work = declaration, work
        self.__doc__ = work.__doc__

    @overload
    def __get__(self, stage: None, owner: type) -> Result[S, P, T]: ...
    @overload
    def __get__(self, stage: S, owner: type) -> Callable[P, T]: ...
    def __get__(self, stage: S | None, owner: type) -> Result[S, P, T] | Callable[P, T]:
        """The result itself on the class, a call that asks for it on a stage."""
        if stage is None:
            return self

        def ask(*args: P.args, **kwargs: P.kwargs) -> T:
            if kwargs:
                raise TypeError(f"{self.declaration.name} takes its arguments in order")
            work = cast("Callable[..., T]", self._work)
            return stage.source.ask(self.declaration.name, args, lambda: work(stage, *args))

        return ask


def result(
    name: str,
    settings: tuple[str, ...] = (),
    needs: Needs | Callable[[StudySettings], Needs] = (),
    version: int = 1,
) -> Callable[[Callable[Concatenate[S, P], T]], Result[S, P, T]]:
    """Declare a method of a stage as a result; see `Declaration`.

    Parameters
    ----------
    name
        Unlike any other’s; part of the key.
    settings
        Paths of settings it reads, as ``stage.field``.
    needs
        Names of results it asks; a function where that hangs on settings.
    version
        Of the computation; raise it when its answer changes.

    Returns
    -------
    Callable[[Callable[Concatenate[S, P], T]], Result[S, P, T]]
        Decorator of the method.
    """
    declaration = Declaration(name, settings, needs, version)
    return lambda work: Result(declaration, work)
