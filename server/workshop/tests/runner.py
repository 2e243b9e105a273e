"""Django's test runner, of which each process may begin processes of its own, as what answers does."""

import multiprocessing
from typing import Any

from django.test.runner import DiscoverRunner, ParallelTestSuite, _init_worker


def _may_begin_others(*arguments: Any, **named: Any) -> None:
    _init_worker(*arguments, **named)
    multiprocessing.current_process()._config["daemon"] = False  # type: ignore[attr-defined]


class _Suite(ParallelTestSuite):
    init_worker = _may_begin_others


class Runner(DiscoverRunner):
    """Runs tests in parallel processes that are no daemons: those must not begin others."""

    parallel_test_suite = _Suite
