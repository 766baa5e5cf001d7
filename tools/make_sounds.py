"""Make the sounds that are shipped: short, soft, told apart without looking. Run by hand; the files are kept."""

from __future__ import annotations

import wave
from pathlib import Path

import numpy as np

RATE = 44100
OUT = Path(__file__).parents[1] / "src" / "reckoner" / "ui" / "sounds_shipped"

SOUNDS = {
    "taken": ((880.0, 0.07),),
    "series": ((880.0, 0.07), (1174.7, 0.12)),
    "refused": ((311.1, 0.12), (233.1, 0.16)),
}
"""Name → tones (Hz, s): a reading taken, a series complete, something refused or a bad pull."""


def tone(hertz: float, seconds: float) -> np.ndarray:
    t = np.arange(int(seconds * RATE)) / RATE
    fade = np.minimum(1, np.minimum(t, seconds - t) / 0.008)
    return (
        0.35 * fade * np.exp(-3 * t / seconds) * (np.sin(2 * np.pi * hertz * t) + 0.3 * np.sin(4 * np.pi * hertz * t))
    )


def main() -> None:
    OUT.mkdir(exist_ok=True)
    for name, tones in SOUNDS.items():
        samples = np.concatenate([tone(*t) for t in tones])
        with wave.open(str(OUT / f"{name}.wav"), "wb") as file:
            file.setnchannels(1)
            file.setsampwidth(2)
            file.setframerate(RATE)
            file.writeframes((samples * 32767).astype("<i2").tobytes())


if __name__ == "__main__":
    main()
