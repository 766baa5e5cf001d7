"""The register: people, models, tools.

``rows``          adding, editing and undoing: every edit a new version, refused from an old one
``editing``       what a person changes, as a command with its inverse; ``adding`` new rows, ``many`` tools at once
``field``         how a field is entered and said; ``fields``, ``gearfields`` and ``shopfields`` declare all
``cards``         tools as every list shows them, and the one that is meant by its number; ``listing`` for finding
``lists``         what a filter finds, a page at a time; ``shelves`` people and models
``filters``       filters that are kept, and what one finds as a table
``finding``       a tool by what was typed or scanned; ``spans`` days and torques
``sheet``         one tool's whole story; ``histories`` its results, ``trends`` how it drifts
``completing``    a model's missing facts and new tools, filled in at the bench
``registerfile``  the register as TOML; ``intake`` brings one in
``columns``       what the columns of a spreadsheet mean; ``spreadsheets`` what its rows say, ``bringing`` brings them in
``gear``          weights, scales, gauges, lengths; ``attachments`` files of a row
"""
