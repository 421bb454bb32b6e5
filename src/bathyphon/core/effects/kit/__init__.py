"""What all effects share."""
