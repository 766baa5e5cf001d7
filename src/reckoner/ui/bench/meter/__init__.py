"""The meter on the bench: its link on a thread of its own, what it sends taken for the run, and the tool's own link."""
