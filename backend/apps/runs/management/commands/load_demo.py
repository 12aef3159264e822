"""Load the demo shop."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from apps.runs import demo


class Command(BaseCommand):
    """Load the demo shop unless it is there already."""

    help = __doc__ or ""

    def handle(self, *_args: Any, **_options: Any) -> None:
        made = demo.load()
        if made:
            self.stdout.write("Loaded the demo shop.")
