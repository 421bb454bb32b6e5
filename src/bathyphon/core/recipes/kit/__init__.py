"""What recipes share."""
