"""The document: what it is, how it is read and checked, what follows from it."""
