"""Prices: what each choice costs now, what it may cost later, and where another would cost less."""

from hematite.prices.pricing import IN_PAIRS, Flip, Priced, Pricing, Sides, price
from hematite.prices.rates import WORKING_DAY_H, Figure, Rates, figures, read_rates

__all__ = [
    "IN_PAIRS",
    "WORKING_DAY_H",
    "Figure",
    "Flip",
    "Priced",
    "Pricing",
    "Rates",
    "Sides",
    "figures",
    "price",
    "read_rates",
]
