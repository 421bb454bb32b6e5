"""What effects are built of."""
