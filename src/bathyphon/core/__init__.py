"""Numbers in, numbers out: no files, no database, no network, no clock."""
