"""Files in and out; nothing here decides or keeps anything.

``papers``       what is printed, and the words on it
``calculators``  requests and answers of `reckoner calc`
``validation``   the validation pack of `reckoner verify`
``rulesets``     rule sets as TOML: those shipped, and a user's own
``resultfile``   everything behind a certificate as one JSON
``exchange``     register, histories, loans and job cards as one JSON; ``jobcard`` one card
``tables``       spreadsheets as tables of text; ``stored_values`` and ``points`` read what stands in one
``documents``    frozen records as JSON, by their own annotations
``catalogues``   the window's languages; ``languages`` the words of papers
``fields``       what formats share: quantities as text with a unit, faults as sentences
``files``        files from outside, bounded in size and depth; files of ours, written whole; ``attachedfile`` as it is
``apart``        reads one in a process of its own; ``refusals`` how one is refused

To add a file format: a module here with pydantic models for the file, and a page in docs/file-formats.md.
"""
