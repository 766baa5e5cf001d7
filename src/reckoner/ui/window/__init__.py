"""The main window and what frames every place: the rail, the top line, who is here, the foot, keys, and reporting an
event."""
