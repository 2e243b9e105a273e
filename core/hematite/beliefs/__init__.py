"""Beliefs: every fault that a vehicle can have, any number at once, weighed by all that was said of it."""

from hematite.beliefs.network import Network
from hematite.beliefs.outlook import Outlook
from hematite.beliefs.weighing import HubBelief, Weighed, unsaid, weigh

__all__ = ["HubBelief", "Network", "Outlook", "Weighed", "unsaid", "weigh"]
