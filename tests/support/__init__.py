"""What several tests need beyond fixtures: runs through the shop's own functions, hands in the window, traces."""
