"""The sentences in English, by stage and by what they are about: `code`, or `code.variant` where one code is told in several ways.

Units, plurals and lists are the renderer's: a template names its facts.
"""

from __future__ import annotations

from notchcore.words.english.check import CHECK
from notchcore.words.english.core import CORE
from notchcore.words.english.design import DESIGN
from notchcore.words.english.files import FILES
from notchcore.words.english.fine import FINE
from notchcore.words.english.ledger import LEDGER
from notchcore.words.english.measure import MEASURE
from notchcore.words.english.nest import NEST
from notchcore.words.english.plan import PLAN
from notchcore.words.english.run import RUN
from notchcore.words.english.shop import SHOP
from notchcore.words.english.strip import STRIP

STAGES = (CHECK, CORE, DESIGN, FILES, FINE, LEDGER, MEASURE, NEST, PLAN, RUN, SHOP, STRIP)
ENGLISH: dict[str, str] = {key: template for stage in STAGES for key, template in stage.items()}
