"""What is to be done: today, in the next twelve months, and next at a reference that is set up."""
