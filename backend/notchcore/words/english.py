"""The sentences in English, by stage and by what they are about: `code`, or `code.variant` where one code is told in several ways.

Units, plurals and lists are the renderer's: a template names its facts.
"""

from __future__ import annotations

CHECK: dict[str, str] = {
    # what goes where
    "collision": "{a} and {b} share {volume}. Move one, or let the program cut a joint between them.",
    "locked_assembly": "Nothing puts {parts} together: no straight move, none of two legs, no tilting. Open one joint: let a part butt instead.",
    "order_not_found": "In the time there was, no order was found for {unknown} of {all} ({parts}); nothing says that there is none. "
    "Give the steps an order of your own.",
    "only_slides": "{part} comes out again: {moves}, because the joints only slide. Glue them, or let them be snug.",
    "only_slides.several": "{parts} come out again, because the joints only slide. Glue them, or let them be snug.",
    "unheld_part": "Nothing holds {part}: {moves}. Give it a joint, lay it on a face and glue it, or mean it so.",
    "unheld_part.butts": "Nothing holds {part} but glue on its edges. Make it reach into a neighbour, or mean it so.",
    "moves.turns": "it turns",
    "moves.every": "it moves every way",
    "moves.some": "it moves {ways}",
    "fit_not_sure": "{risky} of {all} may rattle or not go in; worst {a} with {b} ({worst}). Take more readings or a kerf test on Sheets first.",
    "kerf_left": "This machine is set to correct kerf nowhere: joints come out up to {looser} looser than asked for, and parts a beam smaller. "
    "The odds below reckon with that. Let kerf be corrected in the paths (Sheets, the machine) unless this is meant.",
    # what breaks
    "weak_tab": "A tab of {part} is {width} wide; below {least} it breaks easily. Ask for fewer tabs, or make the edge longer.",
    "long_lever": "One tab of {width} holds all of {part}, which reaches {reach} from it: it will break. Give it two tabs or a wider one.",
    "thin_web": "{part} is only {width} wide {where}; this stock wants {least}. Move what is cut there, or make the part larger.",
    "thin_web.burns": "{part} is only {width} wide {where}; the beam is {beam}: that burns away. Move what is cut there, or make the part larger.",
    "at.one": "at one place",
    "at.thinnest": "at the thinnest of {places}",
    "brittle_corner": "{part} is brittle, with sharp inner corners: cracks begin there. Round them with a relief radius.",
    "brittle_corner.several": "{parts} are brittle, with sharp inner corners: cracks begin there. Round them with a relief radius.",
    "grain_across_neck": "The grain of {part} runs across most of its tabs: they break off along it. Let the grain run the other way.",
    # what does not fit the machine
    "larger_than_bed": "{part} is {size}: larger than the bed of {bed}. Divide it, or make it smaller.",
    "larger_than_sheet": "{part} is {size}: larger than any sheet of {stock} on the shelf. Divide it, or make it smaller.",
    "part_below_slats": "{parts}: narrower than the {pitch} between the slats. Hold them by bridges, lay a mesh below, or watch them as they come free.",
    "opening_below_beam": "An opening of {part} is {width} wide, the beam {beam}: it becomes one burned line. Make it wider, or score it.",
    # what is burned
    "text_too_small": "“{words}” on {part} is {height} high: below {least} it cannot be read after the beam.",
    "letters_lacking": "“{words}” on {part}: these letters have no {letters}, so a gap is burned there. "
    "Choose other letters or words, or bring the text in as a drawing with its letters as outlines.",
    "feature_across_joint": "{feature} on {part} cuts into a joint. Move it, or make it smaller.",
    "feature_across_joint.burned": "{feature} on {part} is burned over a joint. Move it, or make it smaller.",
    "feature_across_fold": "{feature} on {part} cuts into a fold. Move it, or make it smaller.",
    "artwork_flawed": "A drawing that is cut on {part}: {note}",
    "engraved_too_deep": "Engraved on {part}: {note}",
    "wrong_face": "What is burned on {part} looks inwards: nobody will see it. Turn the panel over.",
    # what goes together with what
    "orphan_choice": "{a} and {b} no longer meet, but a choice for their joint is kept. Let them meet again, or forget the choice.",
    "helper_holds": "{part} is counted as a helper, but it is joined to the thing. Make it a part, or let it only lie beside.",
    "stocks_alike": "{one} and {two} are seen together, as at {a} and {b}, and are hard to tell apart (difference {difference}, at least {clear} is clear). "
    "Choose another stock for one, or finish one of them.",
    "recess_too_shallow": "The seat of {small} in {large} comes out only {depth} deep, too shallow to feel: {least} locate. Engrave {stock} with more passes "
    "after a step card on Sheets, or score the place instead.",
    "recess_too_shallow.unknown": "The seat of {small} in {large} comes out as deep as nobody has measured: {least} locate. Engrave {stock} with more passes "
    "after a step card on Sheets, or score the place instead.",
    "laces_unequal": "{a} has {first} along its edge and {b} {second}: a lace needs as many on both sides.",
    # what somebody who knows should look at
    "caution_hangs": "{part} hangs from its holes, over whatever is below. Screws and wall are for somebody who knows them; load it with nobody below first.",
    "caution_brittle_post": "{part} is a brittle strip {width} wide, {length} long: it snaps when it is bumped. Make it wider, or of another stock.",
    "caution_warps": "{part} is a thin sheet of {size} that little holds flat: it will warp with the weather. Frame it, or use a thicker sheet.",
    "caution_cantilever": "{part} is held on one side only and reaches {reach} from a sheet of {thickness}. "
    "Whatever stands on it works as a lever on its joint.",
    "caution_sags": "{part} spans {span} with a sheet of {thickness}: it bends under a load. Use a thicker sheet, a nearer support, or double it.",
}

FINE: dict[str, str] = {
    "fine.collision": "No two parts want the same place",
    "fine.fit_not_sure": "Every joint is likely to fit",
    "fine.kerf_left": "Kerf is corrected somewhere",
    "fine.weak_tab": "Every tab is wide enough for its thickness",
    "fine.long_lever": "No lone tab carries a long lever",
    "fine.thin_web": "No web is thinner than its stock can hold",
    "fine.larger_than_bed": "Every part fits the bed and a sheet on the shelf",
    "fine.orphan_choice": "No choice is kept for a joint that is no more",
    "fine.helper_holds": "Helpers are not joined to the thing",
    "fine.feature_across_joint": "Nothing lies across a joint or a fold",
    "fine.wrong_face": "What is burned can be seen",
    "fine.part_below_slats": "No part or opening is too small",
    "fine.letters_lacking": "Every text has its letters",
    "fine.text_too_small": "Every text can be read",
    "fine.recess_too_shallow": "Every engraved seat is deep enough to locate",
    "fine.laces_unequal": "Laced edges have as many holes on both sides",
    "fine.engraved_too_deep": "No engraving weakens its sheet",
    "fine.brittle_corner": "Brittle sheets have no sharp inner corners",
    "fine.grain_across_neck": "No neck has the grain across it",
    "fine.locked_assembly": "The parts go together",
    "fine.order_not_found": "An order was found in time",
    "fine.stocks_alike": "Stocks side by side can be told apart",
    "fine.stocks_alike.unknown": "Whether stocks can be told apart is not known: nobody took a swatch of {stocks}",
    "fine.unheld_part": "Every part is held",
    "fine.unheld_part.by": "Every part is held: {holds}",
    "held.neighbours": "{number} by their neighbours",
    "held.grip": "{number} by fits that grip",
    "held.glue": "{number} by glue",
    "held.weight": "{number} by weight alone",
}

ENGLISH: dict[str, str] = {**CHECK, **FINE}
