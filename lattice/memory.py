"""What the engine remembers of what it was asked: pure functions with their answers, bounded by bytes.

Nothing here changes an answer; it only saves the work of giving it again.
"""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import fields, is_dataclass
from functools import wraps
from threading import Lock
from typing import Any, Generic, ParamSpec, TypeVar

import numpy as np
from pydantic import BaseModel

from lattice.document.base import Document

__all__ = ["MEGABYTE", "Memory", "forget_all", "remembered", "weight"]

MEGABYTE = 2**20
Key = TypeVar("Key", bound=Hashable)
Value = TypeVar("Value")
Asked = ParamSpec("Asked")

_ALL: list["Memory[Any, Any]"] = []
_SAMPLED = 4  # of a long row so many items are weighed, and the others taken to be like them
_PLAIN = frozenset({type(None), bool, int, float})


class Memory(Generic[Key, Value]):
    """Values by what was asked, those asked for last: together, keys and all, no more than so many bytes.

    What is heavier than all the room there is, is not kept. Safe for several threads.
    """

    def __init__(self, room: int) -> None:
        self.room = room
        self.held = 0
        self._lock = Lock()
        self._known: OrderedDict[Key, tuple[Value, int]] = OrderedDict()
        _ALL.append(self)

    def get(self, key: Key) -> Value | None:
        """Return what is known of *key*."""
        with self._lock:
            found = self._known.get(key)
            if found is None:
                return None
            self._known.move_to_end(key)
            return found[0]

    def put(self, key: Key, value: Value) -> Value:
        """Remember *value*; return it, or the one that was known already."""
        return self._keep(key, value, anew=False)

    def replace(self, key: Key, value: Value) -> Value:
        """Remember *value* instead of what is known of *key*; return it."""
        return self._keep(key, value, anew=True)

    def _keep(self, key: Key, value: Value, *, anew: bool) -> Value:
        weighs = weight(key) + weight(value)
        with self._lock:
            known, before = self._known.get(key, (None, 0))
            if known is not None and not anew:
                self._known.move_to_end(key)
                return known
            self.held -= before
            self._known.pop(key, None)
            if weighs <= self.room:
                self._known[key] = value, weighs
                self.held += weighs
            while self.held > self.room:
                _, (_, oldest) = self._known.popitem(last=False)
                self.held -= oldest
        return value

    def forget(self) -> None:
        """Forget all."""
        with self._lock:
            self._known.clear()
            self.held = 0

    def __len__(self) -> int:
        return len(self._known)


def forget_all() -> None:
    """Forget everything that the engine remembers."""
    for memory in _ALL:
        memory.forget()


def remembered(room: int) -> Callable[[Callable[Asked, Value]], Callable[Asked, Value]]:
    """Remember the answers of a pure function, whose arguments are given by their places, in *room* bytes."""

    def remember(function: Callable[Asked, Value]) -> Callable[Asked, Value]:
        memory: Memory[Any, Value] = Memory(room)

        @wraps(function)
        def ask(*args: Asked.args, **kwargs: Asked.kwargs) -> Value:
            found = memory.get(args)
            return memory.put(args, function(*args, **kwargs)) if found is None else found

        return ask

    return remember


def weight(thing: Any) -> int:  # noqa: PLR0911 - one line for each kind of thing
    """Return about how many bytes *thing* takes, all that it holds included; what is shared is counted each time.

    A thing may say it itself, in a property *weighs*.

    >>> weight(np.zeros(1000, np.int64)) > weight("a name")
    True
    """
    if type(thing) in _PLAIN:
        return 32
    if isinstance(thing, np.ndarray):
        return 112 + thing.nbytes
    if isinstance(thing, str | bytes):
        return 56 + len(thing)
    if (said := getattr(thing, "weighs", None)) is not None:
        return int(said)
    if isinstance(thing, tuple | list | frozenset | set):
        return 56 + _weight_of_row(list(thing) if isinstance(thing, frozenset | set) else thing)
    if isinstance(thing, dict):
        return 64 + _weight_of_row(list(thing.items()))
    if isinstance(thing, BaseModel):
        return _weight_of_model(thing)
    if is_dataclass(thing):
        return 64 + sum(weight(getattr(thing, one.name)) for one in fields(thing))
    return 200


def _weight_of_model(model: BaseModel) -> int:
    """Return what *model* weighs: of a document once, since it never changes and is part of many keys."""
    try:
        known: int = object.__getattribute__(model, "_known_weight")
    except AttributeError:
        known = 400 + sum(weight(value) for value in model.__dict__.values())
        if isinstance(model, Document):
            object.__setattr__(model, "_known_weight", known)
    return known


def _weight_of_row(row: "tuple[Any, ...] | list[Any]") -> int:
    if len(row) <= 2 * _SAMPLED:
        return 8 * len(row) + sum(map(weight, row))
    if type(row[0]) in _PLAIN and type(row[-1]) in _PLAIN:
        return 40 * len(row)
    sample = row[:: len(row) // _SAMPLED]
    return len(row) * (8 + sum(map(weight, sample)) // len(sample))
