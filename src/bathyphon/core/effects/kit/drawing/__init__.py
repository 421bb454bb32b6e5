"""What drawings of effects are made of."""
