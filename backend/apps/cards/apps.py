from django.apps import AppConfig


class CardsConfig(AppConfig):
    name = "apps.cards"

    def ready(self) -> None:
        """Say where a stock is in use, before it may be taken off the rack."""
        from apps.cards.services import uses_of
        from apps.sheets.services import USES

        if uses_of not in USES:
            USES.append(uses_of)
