"""Adjusting a tool: the next turn of its screw, and a beam's scale marked anew. To add a way of adjusting: a module here."""
