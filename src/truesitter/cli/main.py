"""`truesitter`: the same work without a browser.

Wrong input ends with one sentence and code 2, a data folder or port that another program has with
code 3, a folder that cannot be used with code 4.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Callable
from functools import wraps
from pathlib import Path
from typing import Annotated, Any

import typer
from pydantic import ValidationError

from truesitter.cli.easel import add_commands as add_easel
from truesitter.cli.keeping import add_commands as add_keeping
from truesitter.cli.log import add_commands as add_log
from truesitter.cli.plan import write_plans
from truesitter.cli.serving import AuthorityOption, CertificateOption, KeyOption, SchedulerOption
from truesitter.cli.serving import add_commands as add_serving
from truesitter.core.brushes.brush import brush_of
from truesitter.core.colour.spaces import hex_to_srgb, srgb_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.recipes.ingredients import FIXED, MARK, expand
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.solver import solve_recipe
from truesitter.core.paint.tubes.palettes import Palette, starter
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.refusal import Refusal
from truesitter.core.school.library import SCHOOLS
from truesitter.core.school.library import school as school_of
from truesitter.core.settings import StudySettings, TubeSettings, brush_settings
from truesitter.core.settings.base import first_fault
from truesitter.formats.documents.rack_files import read_rack, tubes_of
from truesitter.formats.documents.school_files import read_school
from truesitter.formats.words.wording import dilution_words, parts_sentence
from truesitter.store.backup.lock import Held
from truesitter.store.trouble import DATABASE_ERRORS, NotKept, UnusableFolder, words_for
from truesitter.web.queue.pools import Scheduler, pool_for

app = typer.Typer(add_completion=False, no_args_is_help=True, pretty_exceptions_enable=False)


_CODES: dict[type[Refusal], int] = {Held: 3, UnusableFolder: 4}
"""Exit codes other than 2."""


def _fail(sentence: str, code: int = 2) -> None:
    print(sentence, file=sys.stderr)
    raise typer.Exit(code)


def _clear_errors(command: Callable[..., None]) -> Callable[..., None]:
    """Turn what is wrong with the input into one sentence and exit code 2."""

    @wraps(command)
    def wrapped(*args: Any, **kwargs: Any) -> None:
        try:
            command(*args, **kwargs)
        except ValidationError as error:
            _fail(first_fault(error))
        except Refusal as error:
            _fail(error.sentence, _CODES.get(type(error), 2))
        except (OSError, *DATABASE_ERRORS) as error:
            words = words_for(error)
            _fail(str(error) if words is None else NotKept(words).sentence)

    return wrapped


def _numbers(text: str, count: int, separator: str, what: str) -> list[float]:
    try:
        numbers = [float(part) for part in text.split(separator)]
    except ValueError:
        numbers = []
    if len(numbers) != count:
        raise Refusal(f"{what}; “{text}” is not")
    return numbers


def _school(text: str) -> dict[str, Any]:
    """Which school is meant: one of the built-in ones, or one in a file."""
    if text in SCHOOLS or not Path(text).is_file():
        return {"school": text, "own": ()}
    own = read_school(Path(text).read_bytes())
    if own.key in SCHOOLS:
        own = own.model_copy(update={"key": f"own-{own.key}"[:40].rstrip("-")})
    return {"school": own.key, "own": (own,)}


def _brushes(given: str) -> dict[str, Any]:
    """Settings of the brushes that are there; nothing where none are named."""
    if not given:
        return {}
    named = [] if given == "shop" else [brush_settings(brush_of(one)) for one in given.split(",")]
    return {"brushes": named}


def _ground(text: str) -> dict[str, Any]:
    """Which ground is meant."""
    if "," not in text:
        return {"ground": text}
    lab = _numbers(text, 3, ",", "a ground is auto, a key, or a colour as L,a,b")
    return {"ground": "own", "ground_lab": lab}


@app.command()
@_clear_errors
def schools(as_json: Annotated[bool, typer.Option("--json")] = False) -> None:
    """The schools there are, with what they are painted in."""
    listed = [{"key": s.key, "name": s.name, "medium": s.media[0]} for s in SCHOOLS.values()]
    if as_json:
        print(json.dumps(listed, ensure_ascii=False, indent=1))
        return
    for one in listed:
        print(f"{one['key']}: {one['name']} ({one['medium']})")


_RackFile = Annotated[Path | None, typer.Option("--rack", help="Own tubes: a rack saved as JSON or CSV")]


@app.command()
@_clear_errors
def plan(
    photos: Annotated[list[Path], typer.Argument(metavar="PHOTO…")],
    out: Annotated[
        Path, typer.Option(help="Folder for the plan, or one for each of several; made if missing")
    ],
    canvas: Annotated[str, typer.Option(help="Width x height in mm")] = "300x400",
    groups: int = 5,
    cuts: Annotated[str, typer.Option(help="fit, even, or values like 2,4,6.5")] = "fit",
    palette: Annotated[str, typer.Option(help="A palette's key, or tubes k1,k2,…")] = "earth-four",
    school: Annotated[str, typer.Option(help="A school's key, or a file that holds one")] = "layered-oil",
    ground: Annotated[
        str, typer.Option(help="auto, the key of a ground for the picture, or a colour as L,a,b")
    ] = "school",
    background: Annotated[str, typer.Option(help="photo, counter, or halo")] = "photo",
    recipes: Annotated[str, typer.Option(help="easy to count out, or exact")] = "easy",
    size: Annotated[str, typer.Option(help="sketch, study, portrait, or every pass")] = "portrait",
    brushes: Annotated[
        str, typer.Option(help="Those that are there, like 24flat,10filbert,00liner; or shop for any")
    ] = "",
    rack: _RackFile = None,
    scheduler: SchedulerOption = None,
    cluster_ca: AuthorityOption = None,
    cluster_cert: CertificateOption = None,
    cluster_key: KeyOption = None,
    processes: Annotated[
        int | None, typer.Option(min=1, max=64, help="That compute several; by default one a core")
    ] = None,
) -> None:
    """Write a whole plan for a photograph into a folder, or for many into a folder each."""
    width, height = _numbers(canvas, 2, "x", "a canvas is given as width x height in mm, like 300x400")
    values: dict[str, Any] = {"mode": cuts, "groups": groups}
    if cuts not in ("fit", "even"):
        own = _numbers(cuts, cuts.count(",") + 1, ",", "cuts are fit, even, or values like 2,4,6.5")
        values = {"mode": "own", "groups": len(own) + 1, "cuts": own}
    tubes = _rack(rack)
    chosen = starter(palette, Rack(tuple(tube.tube() for tube in tubes)))
    followed = _school(school)
    media = (followed["own"][0] if followed["own"] else school_of(school)).media
    settings = StudySettings.model_validate(
        {
            "reference": {"canvas_width_mm": width, "canvas_height_mm": height},
            "values": values,
            "flesh": {
                "palette": chosen.key, "tubes": chosen.tubes, "transparent": chosen.transparent,
                "own": [tube for tube in tubes if tube.key in chosen.tubes], "medium": media[0],
                "recipes": recipes,
            },
            "passes": {
                "backdrop": background, "size": size, **followed, **_ground(ground), **_brushes(brushes),
            },
        }
    )  # fmt: skip
    where = Scheduler(scheduler, cluster_ca, cluster_cert, cluster_key) if scheduler else None
    pool = pool_for(where, processes) if where or len(photos) > 1 else None
    try:
        for sentence in write_plans(photos, out, settings, pool):
            print(sentence, flush=True)
    finally:
        if pool is not None:
            pool.close()


@app.command("mix")
@_clear_errors
def mix_command(
    target_lab: Annotated[str | None, typer.Option(help="L,a,b to be mixed")] = None,
    palette: Annotated[str, typer.Option(help="A palette's key, or tubes k1,k2,…")] = "earth-four",
    most: Annotated[int, typer.Option("--max", help="At most so many tubes")] = 4,
    parts: Annotated[
        str | None, typer.Option(help="yellow-ochre=2,titanium-white=1; with an @ a mixture: @green-ground=1")
    ] = None,
    as_json: Annotated[bool, typer.Option("--json")] = False,
    rack: _RackFile = None,
) -> None:
    """Parts for a colour, or the colour of given parts."""
    if (target_lab is None) == (parts is None):
        raise Refusal("give either --target-lab or --parts")
    tubes = Rack(tuple(tube.tube() for tube in _rack(rack)))
    if parts is not None:
        amounts = _parts(parts)
        if any(key.startswith(MARK) for key in amounts):
            if any(n != int(n) for n in amounts.values()):
                raise Refusal("parts of mixtures are whole numbers")
            whole = expand({k: int(n) for k, n in amounts.items()}, FIXED)
            amounts = {k: float(n) for k, n in whole.items()}
        colour = mix(amounts, Palette("own", "Own tubes", tuple(amounts), rack=tubes))
        result: dict[str, Any] = {
            "predicted_lab": colour.lab, "value": colour.value, "hex": colour.hex,
            "on_screen": colour.on_screen, "parts": amounts,
        }  # fmt: skip
        sentence = f"value {colour.value:.2f}, {colour.hex}"
    else:
        light, red, yellow = _numbers(str(target_lab), 3, ",", "a target is given as L,a,b")
        recipe = solve_recipe((light, red, yellow), starter(palette, tubes), most)
        thinner = starter(palette, tubes).thinning.thinner
        words = dilution_words(recipe.dilution, thinner) if recipe.dilution else None
        result = {
            "parts": recipe.parts, "predicted_lab": recipe.predicted.lab, "delta_e": recipe.delta_e,
            "value_error": recipe.value_error, "dilution": words, "reached": recipe.reached,
        }  # fmt: skip
        sentence = (
            f"{parts_sentence(recipe.parts, tubes, words)}; ΔE2000 {recipe.delta_e:.2f}, "
            f"value error {recipe.value_error:+.2f}"
        )
    print(json.dumps(result) if as_json else sentence)


def _rack(file: Path | None) -> tuple[TubeSettings, ...]:
    """The painter's own tubes from a file of the rack; none without one."""
    return tubes_of(read_rack(file.read_bytes())) if file else ()


def _parts(text: str) -> dict[str, float]:
    amounts: dict[str, float] = {}
    for piece in text.split(","):
        key, _, number = piece.partition("=")
        try:
            amounts[key.strip()] = float(number)
        except ValueError:
            raise Refusal(f"parts are given as tube=number; “{piece}” is not") from None
    return amounts


@app.command()
@_clear_errors
def value(
    colour: Annotated[str, typer.Argument(help="A screen colour such as #b58a6c")],
    as_json: Annotated[bool, typer.Option("--json")] = False,
) -> None:
    """Munsell value of a screen colour."""
    lab = srgb_to_lab(hex_to_srgb(colour))
    step = float(lab_value(lab))
    print(json.dumps({"value": step, "lab": lab.tolist()}) if as_json else f"value {step:.2f}")


add_easel(app, _clear_errors, _numbers)
add_keeping(app, _clear_errors)
add_log(app, _clear_errors)
add_serving(app, _clear_errors)
