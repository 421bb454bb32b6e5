"""Duck: turned down for as long as another track speaks."""
