"""All sounds on a page: ``python -m bathyphon.core.sounds.pages > docs/sounds.md``."""

from __future__ import annotations

from collections.abc import Iterable

from bathyphon.core.sounds.kit.model import Model

HEAD = """# Sounds that ship

Beds go on for as long as they are needed, hits end by themselves. All are computed, at −27 LUFS
as they come, by the model that is named; another take is another seed. They lie under *Media &
sounds*, *Sounds*; `./bathyphon sound` lists them and writes them. Made by `python -m
bathyphon.core.sounds.pages`.
"""


def page(models: Iterable[Model]) -> str:
    """The page as Markdown."""
    return "\n".join([HEAD, *(_section(model) for model in models)])


def _section(model: Model) -> str:
    table = model.table
    lines = [f"## {table.label}", "", f"*{table.kind}, {table.family.lower()}* · {table.help}", ""]
    for row in table.parameters:
        if row.choices:
            span = ", ".join(row.choices)
        else:
            span = f"{row.low:g} to {row.high:g} {row.unit}".strip().replace("-", "−")
        lines.append(f"* **{row.label}** ({span}): {row.help}")
    lines += ["", "| sound | heard as |", "| --- | --- |"]
    lines += [f"| {sound.name} | {sound.help} |" for sound in table.sounds]
    lines += ["", f"Source: {table.source}.", ""]
    return "\n".join(lines)


if __name__ == "__main__":
    from bathyphon.core.sounds import MODELS

    print(page(MODELS.values()), end="")
