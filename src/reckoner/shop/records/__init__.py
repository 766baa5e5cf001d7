"""What the Records place reads: the signed runs, and what was done. Each list is read a page at a time, newest first.

``results``  the signed runs    ``trail``    who did what, when
``losing``   what putting a backup back would lose
"""
