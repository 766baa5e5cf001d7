"""Set-ups of references: what a shop hangs and measures with, what to hang where, and the typed set-up of each kind with what
it is worth. To add a kind of reference: its set-up here, its procedure in ``shop.procedures``.
"""
