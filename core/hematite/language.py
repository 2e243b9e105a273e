"""The language that words are said in: English stands in the code and its tables, every other language in a catalogue.

A catalogue is a gettext file, `words/<language>.po` in a folder that was told of (`also_in`). What it lacks is said in
English. Words are found by what they are in English; figures among them are written as the language writes them.
"""

import string
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from functools import cache, wraps
from pathlib import Path
from typing import Any, ParamSpec, TypeVar

from babel.messages.pofile import read_po
from babel.numbers import get_decimal_symbol, get_group_symbol

SOURCE = "en"
_folders = [Path(__file__).parent / "words"]
_spoken: ContextVar[str] = ContextVar("language", default=SOURCE)

P = ParamSpec("P")
T = TypeVar("T")


def also_in(folder: Path) -> None:
    """Look for catalogues in a folder besides: those of a program that has words of its own."""
    if folder not in _folders:
        _folders.append(folder)
        _catalogue.cache_clear()


def languages() -> list[str]:
    """Return the languages that something can be said in, English first."""
    return [SOURCE, *sorted({path.stem for folder in _folders for path in folder.glob("*.po")})]


def spoken() -> str:
    """Return the language that words are said in now."""
    return _spoken.get()


@contextmanager
def speaking(language: str) -> Iterator[None]:
    """Say words in a language; in English where it is none that is known."""
    token = _spoken.set(language if language in languages() else SOURCE)
    try:
        yield
    finally:
        _spoken.reset(token)


def say(words: str, /, **values: object) -> str:
    """Return English words in the language that is spoken, with `values` put in by name, figures as it writes them."""
    found = words if spoken() == SOURCE else _catalogue(spoken()).get(words, words)
    return _Figures().vformat(found, (), values) if values else found


def later(words: str) -> str:
    """Return the words as they are: they are said later, by `say`, and are to be found for the catalogues."""
    return words


def small(words: str) -> str:
    """Return words as they stand in mid-sentence: in English they begin small; elsewhere as the catalogue has them."""
    return words[:1].lower() + words[1:] if spoken() == SOURCE else words


def figure(value: float, format_spec: str) -> str:
    """Return a figure with the decimal and grouping marks of the language that is spoken."""
    return _Figures().format_field(value, format_spec)


def words_once(make: Callable[P, T]) -> Callable[P, T]:
    """Keep what a function makes, as `functools.cache` does, for each language by itself: there are words in it."""

    @cache
    def kept(_: str, *args: P.args, **kwargs: P.kwargs) -> T:
        return make(*args, **kwargs)

    @wraps(make)
    def asked(*args: P.args, **kwargs: P.kwargs) -> T:
        return kept(spoken(), *args, **kwargs)  # type: ignore[arg-type]

    asked.cache_clear = kept.cache_clear  # type: ignore[attr-defined]
    return asked


class _Figures(string.Formatter):
    """Puts values into words; of a figure the decimal and grouping marks are those of the language."""

    def format_field(self, value: Any, format_spec: str) -> str:
        text = str(super().format_field(value, format_spec))
        if spoken() == SOURCE or isinstance(value, bool) or not isinstance(value, int | float):
            return text
        return text.translate(_marks(spoken()))


@cache
def _marks(language: str) -> dict[int, str]:
    return {ord("."): get_decimal_symbol(language), ord(","): get_group_symbol(language)}


@cache
def _catalogue(language: str) -> dict[str, str]:
    found: dict[str, str] = {}
    for folder in _folders:
        path = folder / f"{language}.po"
        if path.is_file():
            with path.open("rb") as lines:
                found |= {str(one.id): str(one.string) for one in read_po(lines) if one.id and one.string}
    return found
