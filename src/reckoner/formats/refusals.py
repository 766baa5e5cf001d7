"""How a file from elsewhere is refused."""

from __future__ import annotations

from reckoner.core.errors import Refused
from reckoner.core.translation import tr


class FileRefused(Refused):
    """A file cannot be used; ``mistakes`` holds one sentence for each thing wrong in it."""

    def __init__(self, source: str, mistakes: tuple[str, ...]) -> None:
        super().__init__(source, mistakes)
        self.source = source
        self.mistakes = mistakes

    def __str__(self) -> str:
        more = tr(" (and {count} more)", count=len(self.mistakes) - 5) if len(self.mistakes) > 5 else ""
        return f"{self.source}: " + "; ".join(self.mistakes[:5]) + more
