"""What the models of sounds share."""
