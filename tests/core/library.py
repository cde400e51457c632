"""A library of generated machines, and labels as they are met: for tests and the benchmark of Identify."""

import random

from insertum.core.machine.shape import Machine

SYLLABLES = ("ba", "ke", "lo", "mi", "nu", "ra", "so", "te", "vi", "wo", "dra", "fen", "gal", "hol", "jur")


def generated(configurations: int, seed: int = 7) -> list[Machine]:
    """Machines of one to four configurations each, with the demo's slots and limits that differ."""
    chance = random.Random(seed)
    found: list[Machine] = []
    count = 0
    while count < configurations:
        maker = chance.choice(("Halden", "Veyra", "Brannock"))
        name = "".join(chance.choice(SYLLABLES) for _ in range(3)).title()
        size, series = chance.choice((11, 12, 13, 14, 15, 16, 17)), len(found)
        shell = f"{name} {size}"
        own = []
        for n in range(min(chance.randrange(1, 5), configurations - count)):
            processor = f"{chance.choice(('Rill', 'Beck', 'Fen'))} {chance.randrange(100, 999)}"
            code = f"{maker[0]}{name[:2].upper()}{size}-{chance.randrange(100, 999)}{'ABCDEFGH'[n]}"
            own.append(
                {
                    "id": f"c{n}", "name": f"{shell} mk {'I' * (n + 1)}", "year": 2015 + n, "processor": f"Corvane {processor}",
                    "marks": [
                        {"kind": "model", "text": f"{shell} mk {'I' * (n + 1)}"},
                        {"kind": "type_code", "text": code},
                        {"kind": "product", "text": f"{chance.randrange(1, 9)}{name[:3].upper()}{chance.randrange(1000, 9999)}"},
                        {"kind": "processor", "text": processor},
                        {"kind": "board", "text": f"{maker[0]}B-{name[:3].upper()}{size} rev {n + 1}"},
                    ],
                    "differs": {"memory": {"total_limit_gb": 8 * 2**n}},
                }
            )  # fmt: skip
        count += len(own)
        found.append(
            Machine.model_validate(
                {
                    "id": f"m{series}", "maker": maker, "name": shell, "width_mm": 320, "depth_mm": 220, "slots": [],
                    "marks": [{"kind": "family", "text": f"{maker} {shell}"}, {"kind": "board", "text": f"{maker[0]}B-{name[:3].upper()}{size}"}],
                    "configurations": own,
                }
            )
        )  # fmt: skip
    return found


def noisy(text: str, chance: random.Random) -> str:
    """A label as it is typed: spacing, case, O for 0, I or l for 1, cut short. A wrong character is another label."""
    for _ in range(chance.randrange(1, 3)):
        match chance.randrange(6):
            case 0:
                text = text.replace(" ", chance.choice(("", "  ", "-")))
            case 1:
                text = chance.choice((text.lower(), text.upper()))
            case 2:
                text = text.replace("0", "O").replace("1", chance.choice("Il"))
            case 4 if len(text) >= 8:
                text = text[: -chance.randrange(1, 3)]
            case _:
                text = chance.choice((f"Model: {text}", f"{text} 19V 3.42A", text))
    return text


def met(machine: Machine, index: int, chance: random.Random) -> list[str]:
    """What somebody reads off one machine: two or three of its marks, with noise."""
    own = machine.configurations[index]
    marks = [m.text for m in own.marks if m.kind != "board"]
    texts = [machine.marks[0].text, *chance.sample(marks, chance.randrange(1, 3))]
    return [noisy(t, chance) for t in texts]
