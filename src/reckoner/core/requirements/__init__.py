"""What is asked of a tool: its type and class (ISO 6789-1:2017), the permissible deviations that makers and owners state, and
rule sets.
"""
