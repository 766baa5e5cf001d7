"""The step of adjusting: its panel and its drawings."""
