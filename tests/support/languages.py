"""A made-up second language, for whatever is said."""

from __future__ import annotations

import re


def accented(catalogue: str) -> str:
    """A made-up language: every letter of ours accented, every text two fifths longer."""
    letters = str.maketrans("aeiouycnszAEIOUYCNSZ", "àéîõüýçñšžÀÉÎÕÜÝÇÑŠŽ")

    def told(text: str) -> str:
        parts = re.split(r"(\{[^{}]*\})", text)
        return "".join(part if part.startswith("{") else part.translate(letters) for part in parts)

    lines = []
    for line in catalogue.splitlines():
        name, sign, text = line.partition(" = ")
        choice = re.match(r"(\s+\*?\[[^\]]*\] )(.*)", line)
        if choice:
            lines.append(choice[1] + told(choice[2]))
        elif sign and re.fullmatch(r"[\w-]+", name) and not text.endswith("->"):
            lines.append(f"{name} = {told(text)}{'~' * (len(text) * 2 // 5)}")
        else:
            lines.append(line)
    return "\n".join(lines)
