"""What is known of a tool and its reference, light enough for lists; ``judged`` is all that a run is judged by."""
