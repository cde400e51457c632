"""Every word of ours in one line: what it says on a screen or a paper. ``docs/words.md`` is made from here."""

from .frozen import Frozen


class GlossaryWord(Frozen):
    """A word as it stands on a screen, and what it means."""

    word: str
    means: str


_WORDS = {
    # verdicts
    "Seats": "The part goes in and does all it can.",
    "Held back": "The part goes in and works, but something keeps it below its own figures, or it rests on the owner's word that all is as usual.",
    "Measure first": "Whether it goes in hangs on something nobody has looked at yet; the page says what, and how to look.",
    "Refused": "The part does not go in, or does not work there, and why is said.",
    "Harm": "Putting the part in could damage it or the machine.",
    # knowing
    "Unknown": "Nobody has said or looked. It is never taken for none, and never for the usual.",
    "Claim": "One statement about a machine, with who makes it: the maker, a data sheet, a bench, others.",
    "Documented": "The maker says so, in a manual or on a page.",
    "Controller": "The processor's data sheet says so; the board may still do less.",
    "Proven": "It ran, or failed, on a bench here or in a workshop whose library was taken in.",
    "Reported": "Others say so; alone it settles nothing.",
    "Read": "The running system of this very machine told it.",
    "Measured": "Somebody measured it on this very machine.",
    "Limits": "Whose figure counts where the maker, the data sheet and benches differ.",
    "As usual": "The owner's word, by name, that an unknown is taken to be as it mostly is: for what can be sent back alone.",
    "Act": "One thing somebody does that answers several questions at once: a reading, the papers, a look under the cover.",
    "Reading": "What tools on the running system say of it, taken at once.",
    "Bundle": "The file a reading comes in: the output of the tools, as they wrote it.",
    "Walk": "Going through a machine with the cover off, place by place, with a caliper.",
    # the machine
    "Place, slot": "Where a part can sit: a memory socket, a drive slot, the Wi-Fi card's slot, a bay, the battery's place.",
    "Wi-Fi card": "The card that makes the wireless network and Bluetooth; cellular is the modem's own slot.",
    "Companion radio": "A Wi-Fi card of which the processor holds the other half (CNVi): it works with its own processors alone.",
    "Standoff": "The post a card is screwed to; a card longer or shorter than any standoff does not lie fast.",
    "Densest chips": "The largest memory chips, in Gbit, that a machine's controller addresses.",
    "Storage mode": "Whether firmware shows drives plainly, or behind a driver of its own that a plain system lacks.",
    "Soldered": "On the board: it can neither be taken out nor replaced.",
    # the plan
    "Need": "What the owner wants of the machine, as a figure with a floor, a comfort and a ceiling.",
    "Points": "How far the needs are met, weighed by what matters to this owner: 100 is all of them at their ceiling.",
    "Best value": "The plan after which another step gains less than the workshop's threshold for its money.",
    "Just enough": "The cheapest plan with every need at its comfort.",
    "Room for years": "Just enough for the needs as they will have grown.",
    "Fill it": "The most that goes into the machine for the budget.",
    "Tread": "One step of the ladder: an upgrade, as wide as it costs and as tall as the need it meets.",
    "What waits": "Plans that would gain more once something has been looked at.",
    "Firmness": "How much a weight or a price must change before the plan changes.",
    "Task": "Work without a part of its own: clean the fan, renew paste, mend a hinge.",
    # the bench
    "Safety key": "The notch before the bench: it turns when every check of Prepare is done or waived in words.",
    "Gate": "One check before a screw is touched, with who did it and when.",
    "Mat": "Where the parts lie that were scanned and are the ones of the plan.",
    "Assembly": "Something that comes out as one piece and is sold by its number: a fan, a deck, a port board.",
    "Found differs": "The machine is otherwise than the plan took it to be: it is planned anew and the owner is asked.",
    "Stopped": "The job ends here, with its reason; nothing of it counts as done.",
    "Record": "What happened, from steps done, scans and words alone; what was planned and not done is said as such.",
    "Sighting": "That a part worked, or did not, in one configuration: written down at the end of a job, and counted.",
}


def glossary() -> tuple[GlossaryWord, ...]:
    """The words in the order of the work: verdicts, knowing, the machine, the plan, the bench."""
    return tuple(GlossaryWord(word=w, means=m) for w, m in _WORDS.items())
