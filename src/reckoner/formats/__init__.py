"""Files in and out; nothing here decides or keeps anything.

``rulesets``   rule sets as TOML: those shipped, and a user's own
``calculators``  requests and answers of `reckoner calc`
``validation``   the validation pack of `reckoner verify`
``trace_csv``    traces as CSV
``fields``  what both share
``reading``   files from outside, bounded in size and depth
``register``   a shop's people, models, tools and references as TOML, for `reckoner import` and the demo

To add a file format: a module here with pydantic models for the file, and a page in docs/file-formats.md.
"""
