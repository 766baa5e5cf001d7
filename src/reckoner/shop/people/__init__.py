"""Who works here: who does something and when, what each may do, and the passphrase behind a signature. To add a right: a
row in ``rights``.
"""
