"""References: what tools are compared with, their certificates, what they are worth where, their checks and their links.

``place``      the list and the sheet
``sheet``      one reference: its worth drawn, its certificates, its cross-checks, what is known of it
``certify``    entering a certificate
``checking``   holding it against another
``trying``     what it sends, line by line
"""

from reckoner.ui.references.place import ReferencesPlace

__all__ = ["ReferencesPlace"]
