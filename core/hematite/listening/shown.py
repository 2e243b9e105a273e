"""What was heard, thinned for the screen."""

import numpy as np

from hematite.envelopes import OrderSpectrum
from hematite.listening.heard import Heard

SHOWN_ORDERS = 30.0


def shown_spectrum(heard: Heard, *, points: int = 1500) -> dict[str, list[float]]:
    """Return the order spectrum for a plot: `orders` and `db`, thinned by maxima to at most `points`."""
    return thinned(heard.spectrum, points=points) if heard.spectrum else {"orders": [], "db": []}


def thinned(spectrum: OrderSpectrum, *, points: int = 1500) -> dict[str, list[float]]:
    """Return an order spectrum up to `SHOWN_ORDERS`, of at most `points`, each the highest of those it stands for."""
    keep = spectrum.orders <= SHOWN_ORDERS
    orders, db = spectrum.orders[keep], spectrum.db()[keep]
    step = max(int(np.ceil(len(orders) / points)), 1)
    usable_length = len(orders) // step * step
    tops = db[:usable_length].reshape(-1, step).max(axis=1)
    return {
        "orders": [round(float(o), 4) for o in orders[:usable_length:step]],
        "db": [round(float(v), 2) for v in tops],
    }
