"""The words of ours: every verdict, school and stance is among them, each in one sentence."""

from insertum.core.glossary import glossary
from insertum.core.machine.attribute import lowered
from insertum.core.machine.claim import Limits, Source
from insertum.core.verdict import Verdict


def test_every_word_is_there_in_one_sentence() -> None:
    words = {w.word.lower(): w.means for w in glossary()}
    wanted = [v.replace("_", " ") for v in Verdict] + [v for v in Source if v not in (Source.RUNS, Source.ASSUMED)]
    wanted += [s.replace("_", " ") for s in ("best_value", "just_enough", "room_for_years", "fill_it")]
    assert [w for w in wanted if w not in words] == []
    assert all(w in words for w in ("limits", "as usual", "act", "tread", "wi-fi card"))
    assert set(Limits) - {"open"} <= set(words)
    for word, means in words.items():
        assert means[0].isupper() and means.endswith(".") and "\n" not in means and len(means) < 160, word


def test_a_name_of_the_trade_keeps_its_letters_inside_a_sentence() -> None:
    told = {
        "Room below": "room below",
        "PCIe lanes": "PCIe lanes",
        "Wi-Fi standard": "Wi-Fi standard",
        "M.2 key": "M.2 key",
        "USB": "USB",
        "": "",
    }
    assert {label: lowered(label) for label in told} == told
