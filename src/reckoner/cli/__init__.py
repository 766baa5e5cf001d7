"""The `reckoner` command. Each subcommand imports what it needs when it runs.

To add a command: a function in the module of its idea and a row in ``main.COMMANDS``.
"""
