"""Settings: ``common`` for all, ``local`` for running, ``testing`` for tests."""
