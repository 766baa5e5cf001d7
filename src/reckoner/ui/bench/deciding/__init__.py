"""The step of deciding and signing: its panel, the numbers behind a verdict, the pulls behind the numbers, the
certificate."""
