"""The order in which nuts or bolts are drawn: across, and to a neighbour only where there is nothing else."""

from hematite.doors import count
from hematite.errors import BadQuantity
from hematite.language import say

MOST = 16


def star_order(nuts: int) -> tuple[int, ...]:
    """Return the order of nuts that are counted round from 0: each as far across from the one before as it can be.

    Of those as far, the one farthest from all that are drawn already. Raises `BadQuantity` for fewer than three or more
    than sixteen. Common practice, no source.
    """
    nuts = count(nuts, say("The nuts of a wheel"), least=3)
    if nuts > MOST:
        raise BadQuantity(say("{nuts} nuts on one wheel are too many. Count them again.", nuts=nuts))
    order = [0]
    while len(order) < nuts:
        left = [n for n in range(nuts) if n not in order]
        last = order[-1]
        order.append(max(left, key=lambda n: (_apart(n, last, nuts), min(_apart(n, m, nuts) for m in order))))
    return tuple(order)


def _apart(a: int, b: int, nuts: int) -> int:
    return min((a - b) % nuts, (b - a) % nuts)
