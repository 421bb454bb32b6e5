"""Pages of the docs that are made from tables are as the tables are."""

from pathlib import Path

import pytest

from bathyphon.core.recipes import RECIPES
from bathyphon.core.recipes import pages as of_recipes
from bathyphon.core.sounds import MODELS
from bathyphon.core.sounds import pages as of_sounds

DOCS = Path(__file__).parents[2] / "docs"


@pytest.mark.parametrize(
    ("name", "made", "module"),
    [
        ("sounds.md", lambda: of_sounds.page(MODELS.values()), "bathyphon.core.sounds.pages"),
        ("recipes.md", lambda: of_recipes.page(RECIPES.values()), "bathyphon.core.recipes.pages"),
    ],
)
def test_a_page_is_as_its_tables_are(name, made, module):
    told = f"python -m {module} > docs/{name}"
    assert (DOCS / name).read_text(encoding="utf-8") == made(), told
