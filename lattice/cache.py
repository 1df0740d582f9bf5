"""Answers of pure functions, kept by what was asked, in a bounded number of bytes.

Nothing here changes an answer; it only saves the work of giving it again.
"""

from collections.abc import Callable
from contextlib import suppress
from functools import wraps
from operator import itemgetter
from threading import Lock
from typing import Any, Generic, ParamSpec, TypeVar

import numpy as np
from cachetools import LRUCache
from pydantic import BaseModel

__all__ = ["MEGABYTE", "Cache", "bytes_of", "cached", "forget_all"]

MEGABYTE = 2**20
Key = TypeVar("Key")
Value = TypeVar("Value")
Asked = ParamSpec("Asked")

_ALL: list["Cache[Any, Any]"] = []
_OF_A_MODEL = 1000  # a document or picture, without its parts
_SHORT = 8  # rows up to here are weighed item by item


class Cache(Generic[Key, Value]):
    """Values by key, those asked for last: together, keys and all, no more than *room* bytes.

    What is heavier than all the room is not kept. Safe for several threads.
    """

    def __init__(self, room: int) -> None:
        self._kept: LRUCache[Key, tuple[Value, int]] = LRUCache(room, getsizeof=itemgetter(1))
        self._lock = Lock()
        _ALL.append(self)

    def get(self, key: Key) -> Value | None:
        """Return the value of *key*; None if there is none."""
        with self._lock:
            found = self._kept.get(key)
        return found[0] if found else None

    def put(self, key: Key, value: Value, *, replace: bool = False) -> Value:
        """Keep *value*; return it, or the one that was there already, unless that is to be replaced."""
        sized = value, bytes_of(key) + bytes_of(value)
        with self._lock, suppress(ValueError):  # heavier than all the room there is
            if replace:
                self._kept[key] = sized
            return self._kept.setdefault(key, sized)[0]
        return value

    def forget(self) -> None:
        """Forget all."""
        with self._lock:
            self._kept.clear()


def forget_all() -> None:
    """Forget every answer."""
    for cache in _ALL:
        cache.forget()


def cached(room: int) -> Callable[[Callable[Asked, Value]], Callable[Asked, Value]]:
    """Keep the answers of a pure function, whose arguments are given by position, in *room* bytes.

    The same question gets the same object, as long as it is kept.
    """

    def keep(function: Callable[Asked, Value]) -> Callable[Asked, Value]:
        cache: Cache[Any, Value] = Cache(room)

        @wraps(function)
        def ask(*args: Asked.args, **kwargs: Asked.kwargs) -> Value:
            found = cache.get(args)
            return cache.put(args, function(*args, **kwargs)) if found is None else found

        return ask

    return keep


def bytes_of(thing: Any) -> int:
    """Return about how many bytes *thing* takes, all that it holds included; what is shared is counted each time.

    An estimate that costs next to nothing: a thing may say it itself, in a property *weighs*, and of a long row the
    first and the last item stand for all.

    >>> bytes_of(np.zeros(1000, np.int64)) > bytes_of("a name")
    True
    """
    if (own := getattr(thing, "weighs", None)) is not None:
        return int(own)
    if isinstance(thing, np.ndarray):
        return 112 + thing.nbytes
    if isinstance(thing, tuple | list):
        if len(thing) <= _SHORT:
            return 64 + sum(map(bytes_of, thing))
        return 64 + len(thing) * max(bytes_of(thing[0]), bytes_of(thing[-1]))
    if isinstance(thing, BaseModel):
        return _OF_A_MODEL + sum(bytes_of(getattr(thing, name)) for name in thing.model_fields_set)
    return 64
