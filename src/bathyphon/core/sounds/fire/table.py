"""Fire: A fire, from a candle's flutter to a blaze."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, share

TABLE = ModelTable(
    id="fire",
    label="Fire",
    kind="bed",
    family="Fire and rooms",
    parameters=(
        share("size", "Size", 35.0, "How large it is: larger fires roar."),
        share("crackle", "Crackle", 55.0, "How much the wood snaps."),
    ),
    sounds=(
        Shipped("Campfire", {}, "wood", "Wood that snaps, close by."),
        Shipped("Stove", {"size": 20.0, "crackle": 20.0}, "hearth", "A stove that draws."),
        Shipped("Blaze", {"size": 100.0, "crackle": 80.0}, "house burning", "A house on fire."),
    ),
    words="flame burn crackle campfire hearth stove wood",
    help="A fire, from a candle's flutter to a blaze.",
    source="Farnell, “Designing Sound” (2010): crackle, hiss and lapping; Clavin & Siggia, "
    "“Turbulent premixed flames and sound generation” (1991)",
)
