"""The `reckoner` command. Each subcommand stands in a module of its own and imports what it needs when it runs.

To add a command: a module here and a row in ``main.COMMANDS``.
"""
