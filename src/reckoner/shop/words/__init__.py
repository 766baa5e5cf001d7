"""Words for people: every sentence about results, comparisons and settings, and the phrases that the top line understands."""
