"""The base of every shape in the API."""

from typing import Any

import ninja
from ninja.schema import DjangoGetter
from pydantic import model_validator

NO_OBJECTS = (list, tuple, str, bytes, bool, int, float)


class Schema(ninja.Schema):
    """A shape that only objects have: the library would read a list as an object that says nothing of itself."""

    @model_validator(mode="before")
    @classmethod
    def _is_an_object(cls, values: Any) -> Any:
        inner = values._obj if isinstance(values, DjangoGetter) else values
        if isinstance(inner, NO_OBJECTS):
            raise ValueError("an object belongs here")
        return values
