"""What others may want to know of media."""

from django.dispatch import Signal

# Sent with ``media``, a row that has just become ready.
media_ready = Signal()
# Sent with ``account``; whoever keeps files of it beside media answers with their bytes.
other_bytes = Signal()
