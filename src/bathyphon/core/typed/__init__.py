"""What people type: values and their units, lines for an effect, words to search by."""
