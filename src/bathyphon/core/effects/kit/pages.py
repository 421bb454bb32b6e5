"""All effects on a page: ``python -m bathyphon.core.effects.kit.pages > docs/effects.md``."""

from __future__ import annotations

from collections.abc import Iterable

from bathyphon.core.effects.kit.effect import Effect

HEAD = """# Effects

What each does, what to listen for, values that practitioners start from, and when not to use it.
The same is beside each effect: **F1** opens it. The starting values are common practice. Made by
`python -m bathyphon.core.effects.kit.pages`.
"""


def page(effects: Iterable[Effect]) -> str:
    """The page as Markdown."""
    return "\n".join([HEAD, *(_section(effect) for effect in effects)])


def _section(effect: Effect) -> str:
    table, advice = effect.table, effect.advice
    presets = ", ".join(f"*{preset.name}*" for preset in effect.presets)
    lines = [
        f"## {table.label}",
        "",
        table.help,
        "",
        f"* **Listen for** {_begun(advice.listen)}",
        f"* **Begin with** {_begun(advice.start)}",
        f"* **Not for** {_begun(advice.avoid)}",
    ]
    if presets:
        lines.append(f"* **Presets** {presets}")
    return "\n".join([*lines, ""])


def _begun(text: str) -> str:
    """Going on in the middle of a line."""
    first = text.split(" ", 1)[0]
    return (
        text
        if (first.isupper() and len(first) > 1) or not first[:1].isalpha()
        else text[:1].lower() + text[1:]
    )


if __name__ == "__main__":
    from bathyphon.core.effects import EFFECTS

    print(page(EFFECTS.values()), end="")
