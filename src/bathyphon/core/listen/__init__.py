"""What an ear would say of a reel: levels matched, findings with their cures, what is speech."""
