"""The core from a terminal: JSON out, messages on standard error.

Exit codes: 0 done, 1 the answer is no, 2 bad input (with where and why).
"""

import argparse
import json
import sys
from pathlib import Path
from typing import Any

from pydantic import BaseModel

from .core.ask.ask import House
from .core.catalogue import Catalogue
from .core.decode import decode
from .core.errors import InputError
from .core.find import listed
from .core.fit.build import Build
from .core.fit.judge import Judgement, judge_equipped
from .core.fit.premises import why
from .core.identify.library import Library
from .core.job.fit_desk import FitDesk
from .core.job.shape import FitChoice, Identified, Job
from .core.machine.claim import Limits
from .core.machine.part import Accessory, Fittable
from .core.machine.shape import Machine
from .core.maker_text.read import read_spec
from .core.plan.answer import plan
from .core.plan.request import PlanRequest
from .core.prove.compare import compare
from .core.prove.expect import Expected
from .core.survey.current_build import build_today
from .formats.bundle import files_in, files_of
from .formats.json_errors import read_json, text_of
from .formats.parts import read_parts
from .formats.readings import read_bundle

DONE, NO, BAD_INPUT = 0, 1, 2


def _text(path: str) -> str:
    return text_of(_bytes(path), path)


def _bytes(path: str) -> bytes:
    try:
        return Path(path).read_bytes()
    except OSError as error:
        raise InputError(error.strerror or str(error), path, "Check the path.") from error


def _show(value: Any) -> None:
    data = value.model_dump(mode="json") if isinstance(value, BaseModel) else value
    print(json.dumps(data, indent=1, ensure_ascii=False))


def _decode(args: argparse.Namespace) -> int:
    _show(decode(args.text))
    return DONE


def _ask(args: argparse.Namespace) -> int:
    """A question put to machine files and a catalogue: as the workshop answers it, without what it saw itself."""
    machines = [read_json(Machine, _text(path), path) for path in args.machines]
    parts = Catalogue(read_parts(_text(args.parts)))
    by_id = {m.id: m for m in machines}
    if len(by_id) < len(machines):
        raise InputError("two of the files describe one machine", "machines", "Name each machine's file once.")

    def desk_of(machine: str, configuration: str, limits: Limits) -> FitDesk:
        chosen = Identified(machine=machine, configuration=configuration)
        job = Job(number=1, identify=chosen, fit=FitChoice(limits=limits))
        return FitDesk(job, by_id[machine], parts)

    house = House(Library(machines), parts, listed(parts), desk_of)
    found = house.ask(args.text, Limits(args.limits))
    _show(found)
    if found.meaning.is_open:  # not understood is neither yes nor no
        open_ = found.meaning.says or f"nothing here says what {' '.join(found.meaning.unread)!r} is"
        raise InputError(open_, "question", " ".join(w.ask for w in found.meaning.ways[:1]) or "Say it otherwise.")
    usable = any(s.verdict.usable for s in found.seats) or any(g.verdict.usable for g in found.machines)
    return DONE if usable or found.places else NO


def _fit(args: argparse.Namespace) -> int:
    machine = read_json(Machine, _text(args.machine), args.machine).configured(args.configuration)
    parts = read_parts(_text(args.parts))
    build = build_today(machine, stance=Limits(args.limits), firmware=args.firmware)
    shelf = [p for p in parts if isinstance(p, Accessory)]
    slots = [machine.slot(args.slot)] if args.slot else machine.slots
    judged = [
        (p, j)
        for p in parts
        if not isinstance(p, Accessory)
        for s in slots
        if (j := judge_equipped(build, s.id, p, shelf)).verdict is not None
    ]
    _show(
        {
            "format": "insertum-fit/1",
            "machine": machine.title,
            "limits": args.limits,
            "context": {s: (p.name if p else None) for s, p in build.fitted.items()},
            "judgements": [_judgement(build, p, j, shelf if args.why else None) for p, j in judged],
        }
    )
    return DONE if any(j.verdict and j.verdict.usable for _, j in judged) else NO


def _judgement(build: Build, part: Fittable, judged: Judgement, shelf: list[Accessory] | None) -> dict[str, Any]:
    """A judgement for a file; with a shelf, what carries it and what was said besides."""
    told = judged.model_dump(mode="json")
    if shelf is not None:
        carries, aside = why(build, judged, part, shelf)
        told["because"] = [e.model_dump(mode="json") for e in carries]
        told["aside"] = [a.model_dump(mode="json") for a in aside]
    return told


def _words(args: argparse.Namespace) -> int:
    text = sys.stdin.read() if args.text == "-" else _text(args.text)
    spec = read_spec(text, args.name)
    _show(spec)
    return DONE if spec.stated else NO


def _plan(args: argparse.Namespace) -> int:
    answer = plan(read_json(PlanRequest, _text(args.request), args.request))
    _show(answer)
    return DONE if any(p.changes for p in answer.frontier) else NO


def _read(args: argparse.Namespace) -> int:
    path = Path(args.bundle)
    files = files_in(path) if path.is_dir() else files_of(_bytes(args.bundle), args.bundle)
    reading = read_bundle(files)
    _show(reading)
    return DONE if reading.understood else NO


def _prove(args: argparse.Namespace) -> int:
    expected = read_json(Expected, _text(args.expected), args.expected)
    path = Path(args.bundle)
    files = files_in(path) if path.is_dir() else files_of(_bytes(args.bundle), args.bundle)
    report = compare(expected, read_bundle(files))
    _show(report)
    return DONE if report.proved else NO


def parser() -> "tuple[argparse.ArgumentParser, argparse._SubParsersAction[argparse.ArgumentParser]]":
    """The command line, and where more verbs are added to it."""
    top = argparse.ArgumentParser(prog="insertum", description="Fit, plan and prove laptop upgrades.")
    verbs = top.add_subparsers(dest="verb", required=True)
    verb = verbs.add_parser("decode", help="read a memory label or an M.2 code")
    verb.add_argument("text")
    verb.set_defaults(run=_decode)
    verb = verbs.add_parser("words", help="what a maker's specification page or manual's page states")
    verb.add_argument("text", help="a text file, - for standard input")
    verb.add_argument("--name", default="", help="the machine's name: what the page says of another is left out")
    verb.set_defaults(run=_words)
    verb = verbs.add_parser("fit", help="judge parts against a machine's slots")
    verb.add_argument("--machine", required=True)
    verb.add_argument("--configuration", required=True)
    verb.add_argument("--parts", required=True)
    verb.add_argument("--slot")
    verb.add_argument("--firmware", default="")
    verb.add_argument("--why", action="store_true", help="from claims and deductions to each verdict")
    verb.add_argument("--limits", choices=[x.value for x in Limits], default=Limits.PROVEN.value)
    verb.set_defaults(run=_fit)
    verb = verbs.add_parser("ask", help="a model and a part in any order: does it go in, and why")
    verb.add_argument("text")
    verb.add_argument("--machines", required=True, nargs="+", help="machine files")
    verb.add_argument("--parts", required=True)
    verb.add_argument("--limits", choices=[x.value for x in Limits], default=Limits.PROVEN.value)
    verb.set_defaults(run=_ask)
    verb = verbs.add_parser("plan", help="the frontier and the four stances for a request")
    verb.add_argument("request")
    verb.set_defaults(run=_plan)
    verb = verbs.add_parser("read", help="one reading from a bundle of tool outputs")
    verb.add_argument("bundle")
    verb.set_defaults(run=_read)
    verb = verbs.add_parser("prove", help="compare expectations with a reading")
    verb.add_argument("expected")
    verb.add_argument("bundle")
    verb.set_defaults(run=_prove)
    return top, verbs


def main(argv: list[str] | None = None) -> int:
    """The core's own commands; what it returns is the exit status, ``BAD_INPUT`` where the input is refused in words."""
    args = parser()[0].parse_args(argv)
    try:
        return int(args.run(args))
    except InputError as error:
        print(error, file=sys.stderr)
        return BAD_INPUT


if __name__ == "__main__":
    sys.exit(main())
