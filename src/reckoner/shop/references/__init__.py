"""The shop's references: their register, the checks of each against another, and such a check over a whole range."""
