"""Every refusal of the core: a sentence that tells a mechanic what is wrong and what to do next."""


class HematiteError(ValueError):
    """Something given to the core cannot be used; `str()` is fit to be shown on a screen."""


class BadQuantity(HematiteError):
    """A number that is missing, not finite, or outside what can exist."""


class MeantBackwards(BadQuantity):
    """An angle that may be a gauge turned backwards: asked, never assumed."""


class BadGeometry(HematiteError):
    """Bearing dimensions that cannot belong to one bearing."""


class BadTyreCode(HematiteError):
    """A tyre size that cannot be read."""


class BadRecording(HematiteError):
    """A sound file that cannot be decoded or is unusable as a whole."""


class BadSpeed(HematiteError):
    """A statement of speed that cannot be turned into wheel turns."""


class BadBundle(HematiteError):
    """A case bundle that does not follow the open format."""


class UnknownName(HematiteError):
    """A design, unit, choice or witness that no table lists."""
