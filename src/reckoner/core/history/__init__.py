"""What results say over time: drift, intervals and due dates, before and after an event, checks of a reference, what a bad
tool may have spoiled, and what testing costs.
"""
