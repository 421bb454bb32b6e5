"""The reels application."""

from django.apps import AppConfig


class Config(AppConfig):
    """Names the application, has reels told of media that become ready, and takes in archives."""

    name = "bathyphon.server.reels"
    label = "reels"

    def ready(self) -> None:
        """Listen."""
        from bathyphon.server.media.signals import media_ready
        from bathyphon.server.media.uploads import TAKERS
        from bathyphon.server.reels.archives import take_archive
        from bathyphon.server.reels.arrivals import picture_ready

        media_ready.connect(picture_ready)
        TAKERS["archive"] = take_archive
