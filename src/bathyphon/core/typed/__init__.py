"""What people type: values with their units, effects with their values, words that they look for."""
