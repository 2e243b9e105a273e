"""Headers that no package sets: which devices a page of ours may ask for."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

Handler = Callable[[HttpRequest], HttpResponse]


def device_permissions(get_response: Handler) -> Handler:
    """Let our own pages use the microphone, and nothing else."""

    def answer(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response["Permissions-Policy"] = "microphone=(self), camera=(), geolocation=(), payment=(), usb=()"
        return response

    return answer
