"""The whole database as SQL, by MariaDB's own tools: written as one moment has it, and loaded."""

import subprocess
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from django.db import DatabaseError, connection

# A stolen backup should open no session; who guessed at a password is of the machine that they guessed at.
NOT_KEPT = ("django_session", "axes_accessattempt", "axes_accesslog", "axes_accessfailurelog")


class CannotKeep(Exception):
    """Why a backup or a restore did not go, in words for whoever runs the server."""


@contextmanager
def _account() -> Iterator[list[str]]:
    """Give what MariaDB's own tools are told to reach the database; the password stands in a file of the moment."""
    told = connection.settings_dict
    host, port = str(told["HOST"]), told["PORT"] or 3306
    at = f"socket={host}" if host.startswith("/") else f"host={host}\nport={port}"
    authority = told["OPTIONS"].get("ssl", {}).get("ca")
    tls = f"\nssl-ca={authority}\nssl-verify-server-cert" if authority else ""
    with tempfile.NamedTemporaryFile("w", prefix="account", suffix=".cnf") as file:
        secret = str(told["PASSWORD"]).replace("\\", "\\\\").replace('"', '\\"')
        file.write(f'[client]\nuser={told["USER"]}\npassword="{secret}"\n{at}{tls}\ndefault-character-set=utf8mb4\n')
        file.flush()
        yield [f"--defaults-file={file.name}"]


def write(target: Path, *, whole: bool = False) -> None:
    """Write the database as one moment has it. `whole`: with sessions and guesses, to stay on this machine."""
    name = str(connection.settings_dict["NAME"])
    without = [] if whole else [f"--ignore-table-data={name}.{table}" for table in NOT_KEPT]
    with _account() as account, target.open("wb") as out:
        command = ["mariadb-dump", *account, "--single-transaction", "--quick", "--hex-blob", "--skip-lock-tables"]
        done = subprocess.run([*command, *without, name], stdout=out, stderr=subprocess.PIPE, check=False)  # noqa: S603
    if done.returncode:
        raise CannotKeep(f"mariadb-dump: {done.stderr.decode(errors='replace').strip()[-600:]}")
    _whole(target)


def _whole(dump: Path) -> None:
    """Refuse a dump that does not say at its end that it is one."""
    with dump.open("rb") as file:
        file.seek(max(0, dump.stat().st_size - 200))
        if b"-- Dump completed" not in file.read():
            raise CannotKeep("The dump of the database broke off.")


def load(dump: Path) -> None:
    """Load a dump into the database. Raises CannotKeep where it is not whole, before anything is loaded."""
    _whole(dump)
    connection.close()
    with _account() as account, dump.open("rb") as source:
        command = ["mariadb", *account, str(connection.settings_dict["NAME"])]
        done = subprocess.run(command, stdin=source, capture_output=True, check=False)  # noqa: S603
    if done.returncode:
        raise CannotKeep(f"mariadb: {done.stderr.decode(errors='replace').strip()[-600:]}")


def empty() -> None:
    """Take every table away, and whoever else is connected: a loading that outlived its command, for instance."""
    with connection.cursor() as cursor:
        others = "SELECT id FROM information_schema.processlist WHERE db = DATABASE() AND id <> CONNECTION_ID()"
        cursor.execute(others)
        for (other,) in cursor.fetchall():
            with suppress(DatabaseError):  # gone meanwhile
                cursor.execute("KILL %s", [other])
        tables = connection.introspection.table_names(cursor)
        cursor.execute("SET FOREIGN_KEY_CHECKS = 0")
        for table in tables:
            cursor.execute(f"DROP TABLE {connection.ops.quote_name(table)}")
        cursor.execute("SET FOREIGN_KEY_CHECKS = 1")


def rows() -> dict[str, int]:
    """Return how many rows each table has."""
    with connection.cursor() as cursor:
        found = connection.introspection.table_names(cursor)
    return {table: _count(table) for table in found}


def people() -> bool:
    """Return whether there is anybody in the database."""
    with connection.cursor() as cursor:
        cursor.execute("SHOW TABLES LIKE 'people_user'")
        return bool(cursor.fetchone()) and _count("people_user") > 0


def _count(table: str) -> int:
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT COUNT(*) FROM {connection.ops.quote_name(table)}")  # noqa: S608 - a name that it gave us
        return int(cursor.fetchone()[0])
