"""The fleet: the work to come, what to order, what comes back too soon, and what it costs."""
