"""The catalogues of words: what is said in code and tables, gathered for whoever translates it. `make words`."""

import argparse
import io
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract_from_dir
from babel.messages.pofile import read_po, write_po
from hematite.tables import prose_of, tables

from ops.build import WEB
from ops.say import ROOT, say

KEYWORDS = {"say": None, "later": None}
PASSED_BY = {"tests": "ignore", "migrations": "ignore"}
CORE, SERVER = ROOT / "core" / "hematite", ROOT / "server"
FOLDERS = {CORE: CORE / "words", SERVER: SERVER / "workshop" / "words"}


def gathered(top: Path) -> Catalog:
    """Return every text of a tree that is said to a reader, with the places where it stands, in no language yet."""
    catalog = Catalog(charset="utf-8", fuzzy=False)
    for place, words in sorted(_of_code(top)):
        catalog.add(words, locations=[(place, 0)])
    if top == CORE:
        for place, words in _of_tables():
            catalog.add(words, locations=[(place, 0)])
    return catalog


def _of_code(top: Path) -> Iterator[tuple[str, str]]:
    methods = [("**/tests/**", "ignore"), ("**/migrations/**", "ignore"), ("**.py", "python")]
    for place, _, words, _, _ in extract_from_dir(str(top), methods, keywords=KEYWORDS):
        yield place, words if isinstance(words, str) else words[0]


def _of_tables() -> Iterator[tuple[str, str]]:
    for name in tables():
        yield from ((name, words) for words in dict.fromkeys(prose_of(name)))


def brought_up_to_date(top: Path, path: Path) -> bytes:
    """Return a language's catalogue with the texts as they are now; a translation of what is gone goes too."""
    kept = Catalog(locale=path.stem, charset="utf-8", fuzzy=False)
    if path.is_file():
        with path.open("rb") as lines:
            kept = read_po(lines, locale=path.stem)
    found = gathered(top)
    for message in found:
        if message.id and (was := kept.get(message.id)):
            message.string = was.string
    found.locale, found.header_comment = path.stem, f"# Hematite in {path.stem}."
    made = io.BytesIO()
    write_po(made, found, width=120, omit_header=False, sort_output=True, include_lineno=False)
    return b"\n".join(line for line in made.getvalue().split(b"\n") if not line.startswith(b'"POT-Creation-Date'))


def missing(content: bytes) -> list[str]:
    """Return the texts of a catalogue that have no translation."""
    return [str(one.id) for one in read_po(io.BytesIO(content)) if one.id and not one.string]


def main() -> int:
    """Do what was asked for on the command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--write", action="store_true", help="bring the catalogues up to date")
    return looked_after(write=parser.parse_args().write)


def looked_after(*, write: bool) -> int:
    """Bring every catalogue up to date, or say what it lacks; return 1 where something is amiss."""
    amiss = 0
    for top, folder in FOLDERS.items():
        for path in sorted(folder.glob("*.po")):
            made = brought_up_to_date(top, path)
            if write:
                path.write_bytes(made)
            elif made != path.read_bytes():
                say(f"{path.relative_to(ROOT)} is not up to date: make words")
                amiss = 1
            if lacking := missing(made):
                say(f"{path.relative_to(ROOT)}: {len(lacking)} not translated, such as {lacking[0]!r}")
                amiss = 1
    told = ["--clean"] if write else ["check", "--full"]
    done = subprocess.run(["npx", "wuchale", *told], cwd=WEB, check=False, capture_output=True, text=True)
    if done.returncode:
        say(f"{done.stdout[-2000:]}{done.stderr[-4000:]}")
    return int(amiss or done.returncode != 0)


if __name__ == "__main__":
    sys.exit(main())
