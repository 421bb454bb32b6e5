"""All checks on a page: ``python -m bathyphon.core.listen.pages > docs/findings.md``."""

from __future__ import annotations

from collections.abc import Iterable

from bathyphon.core.listen.finding import Check

HEAD = """# Findings

What a reel is checked for, what one does about it, and the thresholds with their sources. *Lists*
shows what was found, `measure --findings` prints it, **F1** opens these texts beside each finding.
Made by `python -m bathyphon.core.listen.pages`.
"""


def page(checks: Iterable[Check]) -> str:
    """The page as Markdown."""
    return "\n".join([HEAD, *(_section(check) for check in checks)])


def _section(check: Check) -> str:
    lines = [f"## {check.label}", "", check.help, ""]
    for t in check.thresholds:
        value = "not asked for" if t.value is None else f"{t.value:g} {t.unit}"
        value = value.replace("-", "−")
        lines.append(f"* **{t.label}: {value}.** {t.help} *{t.source}.*")
    return "\n".join([*lines, ""] if check.thresholds else lines)


if __name__ == "__main__":
    from bathyphon.core.listen.findings import CHECKS

    print(page(CHECKS), end="")
