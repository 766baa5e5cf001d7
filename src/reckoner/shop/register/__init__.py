"""The register: people, models, tools, references.

``rows``        adding, editing and undoing: every edit a new version, refused from an old one
``cards``       tools as every list shows them
``sheet``       one tool's whole story
``field``       how one field is entered and said; ``fields`` declares them all
``howoften``    what each school of intervals would give a tool
``finding``     a tool by what was typed or scanned
``spans``       what a filter says of due dates and torques; ``filters`` that are kept
``many``        one change for many tools
``completing``  a model's missing facts and new tools, filled in at the bench
``intake``      a register file into the database
``columns``     what the columns of a spreadsheet of tools mean; ``spreadsheets`` what its rows say
``bringing``    brings the good ones in
"""
