"""Gate: what is quieter than a threshold is turned down."""
