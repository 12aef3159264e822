"""How wide the property tests search: quick for the inner loop, wide and repeatable for all."""

import os

from hypothesis import settings

settings.register_profile("wide", derandomize=True, deadline=None, print_blob=False)
settings.register_profile("quick", max_examples=12, derandomize=True, deadline=None)
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "wide"))
