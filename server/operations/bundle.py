"""All that is a musician's in one zip, and what such a zip holds as somebody's, here or elsewhere.

`rows/` holds it row by row, as JSON; `pieces/` and `clips/` hold the same for people and other programs: JSON and MIDI.
"""

import base64
from collections.abc import Callable, Iterator
from io import BufferedIOBase
from typing import Annotated, Any, Literal, NamedTuple
from zipfile import ZIP_DEFLATED, BadZipFile, ZipFile

import orjson
from accounts.models import Owned, User
from accounts.stored import check_bytes, check_room
from clips import services as clip_services
from clips.models import Clip, ClipMoment
from config.downloads import file_name
from django.conf import settings
from django.core.exceptions import ValidationError
from django.db import IntegrityError, models, transaction
from library.models import Kit, Starter
from library.services import MAX_KEPT
from pieces import services as piece_services
from pieces.models import Moment, Piece
from ports.models import Controllers
from pydantic import StringConstraints, TypeAdapter
from sounds.decode import NoSoundError, decode
from sounds.models import Sound
from sounds.services import MAX_SOUNDS
from takes.models import Take, TakeSheet
from takes.services import MAX_SHEETS
from typing_extensions import TypedDict

from lattice import clips, document, starters
from lattice.document import DocumentError, read
from lattice.document.binding import ControllerTable
from lattice.formats.midi import midi_file

__all__ = ["read_bundle", "write_bundle"]

_FORMAT, _VERSION = "jolly-lattice-account", 1
_TABLES = TypeAdapter(list[ControllerTable])
_AT_ONCE = 200


class _Change(TypedDict):
    """What a moment may have changed. Copying, which would make much of little, is no part of it."""

    op: Literal["add", "remove", "replace", "move"]
    path: Annotated[str, StringConstraints(max_length=400)]


_CHANGES = TypeAdapter(list[_Change])


class _Kind(NamedTuple):
    """A kind of rows. *parent*: the field that leads to a row before it, for what has no owner of its own.

    *checked*: what is to be stored of its fields; raises where they are wrong. *most*: of them, of one musician.
    """

    model: type[models.Model]
    checked: Callable[[dict[str, Any]], dict[str, Any]]
    parent: str = ""
    most: int = 0


def _read(field: str, model: Any) -> Callable[[dict[str, Any]], dict[str, Any]]:
    return lambda row: {field: read(model, row[field]).model_dump(mode="json")}


def _moment(row: dict[str, Any]) -> dict[str, Any]:
    if row.get("document") is None:
        _CHANGES.validate_python(row["changes"])
    return {}


def _clip_moment(row: dict[str, Any]) -> dict[str, Any]:
    if row.get("document") is not None:
        read(clips.Clip, row["document"] | {"origin": None})
    return _moment(row)


def _sound(row: dict[str, Any]) -> dict[str, Any]:
    try:
        recording = decode(base64.b64decode(row["data"], validate=True))
    except NoSoundError as problem:
        raise DocumentError.of("data", str(problem)) from None
    return {"data": recording.flac, "seconds": recording.seconds}


def _tables(row: dict[str, Any]) -> dict[str, Any]:
    return {"tables": _TABLES.dump_python(_TABLES.validate_python(row["tables"]), mode="json")}


KINDS = (
    _Kind(Sound, _sound, most=MAX_SOUNDS),
    _Kind(Kit, _read("document", document.Kit), most=MAX_KEPT),
    _Kind(Starter, _read("document", starters.Starter), most=MAX_KEPT),
    _Kind(Piece, lambda row: _read("document", document.Piece)(row) | {"attempt": ""}, most=piece_services.MAX_PIECES),
    _Kind(Moment, _moment, parent="piece"),
    _Kind(Clip, lambda row: _read("document", clips.Clip)(row) | {"keeping": None}, most=clip_services.MAX_CLIPS),
    _Kind(ClipMoment, _clip_moment, parent="clip"),
    _Kind(TakeSheet, _read("score", document.Score), most=MAX_SHEETS),
    _Kind(Take, lambda row: {}, parent="sheet"),
    _Kind(Controllers, _tables),
)  # fmt: skip


def _label(model: type[models.Model]) -> str:
    return str(model._meta.label_lower)


def _fields(model: type[models.Model]) -> list[Any]:
    """Return the fields that a row says: not whose it is, nor what the database makes of the others."""
    return [
        field
        for field in model._meta.concrete_fields
        if field.name not in ("owner", "deleted_at") and not field.generated
    ]


def write_bundle(owner: User, to: BufferedIOBase) -> None:
    """Write all that is of *owner*, and is not deleted, into *to*, a file."""
    with ZipFile(to, "w", ZIP_DEFLATED) as archive:
        archive.writestr(
            "about.json", orjson.dumps({"format": _FORMAT, "version": _VERSION, "of": owner.get_username()})
        )
        for kind in KINDS:
            with archive.open(f"rows/{_label(kind.model)}.jsonl", "w", force_zip64=True) as file:
                for row in _rows_of(owner, kind).iterator(chunk_size=_AT_ONCE):
                    said = {field.attname: field.value_from_object(row) for field in _fields(kind.model)}
                    if "data" in said:
                        said["data"] = base64.b64encode(said["data"]).decode()
                    file.write(orjson.dumps(said) + b"\n")
        for piece in Piece.objects.filter(owner=owner, deleted_at=None).iterator(chunk_size=_AT_ONCE):
            called = file_name(f"{piece.name} {piece.pk}.json")
            archive.writestr(f"pieces/{called}", orjson.dumps(piece.document, option=orjson.OPT_INDENT_2))
        for clip in Clip.objects.filter(owner=owner, deleted_at=None).iterator(chunk_size=_AT_ONCE):
            called = file_name(f"{clip.name} {clip.pk}.mid")
            archive.writestr(f"clips/{called}", midi_file(clip_services.document_of(clip)))


def _rows_of(owner: User, kind: _Kind) -> models.QuerySet[Any]:
    rows = kind.model._default_manager.order_by("pk")
    way = f"{kind.parent}__" if kind.parent else ""
    if kind.model is Controllers:
        return rows.filter(owner=owner)
    return rows.filter(**{f"{way}owner": owner, f"{way}deleted_at": None})


@transaction.atomic
def read_bundle(owner: User, file: Any) -> dict[str, int]:
    """Store what the zip in *file* holds as *owner*'s, beside what is there, and return how many rows of each kind.

    Raises DocumentError, saying which row of which kind is wrong, or that there is no room; nothing is stored then.
    """
    try:
        with ZipFile(file) as archive:
            _check(archive)
            known: dict[tuple[str, Any], Any] = {}
            stored = {_label(kind.model): _store(owner, archive, kind, known) for kind in KINDS}
    except (BadZipFile, NotImplementedError, EOFError):
        raise DocumentError.of("", "it is no zip that can be read") from None
    check_bytes(owner)
    return {kind: number for kind, number in stored.items() if number}


def _check(archive: ZipFile) -> None:
    try:
        with archive.open("about.json") as file:
            about = orjson.loads(file.read(10_000))
    except (KeyError, ValueError):
        about = {}
    if not isinstance(about, dict) or about.get("format") != _FORMAT:
        raise DocumentError.of("", "it is no export of an account of Jolly Lattice")
    if about.get("version") != _VERSION:
        raise DocumentError.of("version", f"{_VERSION} can be read here, got {about.get('version')}")
    size = sum(one.file_size for one in archive.infolist() if one.filename.startswith("rows/"))
    most = 8 * settings.MEGABYTES_EACH * 2**20  # the database packs documents about so much
    if size > most:
        raise DocumentError.of(
            "", f"it holds {size / 2**20:,.0f} MB unpacked, at most {most / 2**20:,.0f} can be read"
        )


def _lines(archive: ZipFile, kind: _Kind) -> Iterator[tuple[int, dict[str, Any]]]:
    try:
        file = archive.open(f"rows/{_label(kind.model)}.jsonl")
    except KeyError:
        return
    with file:
        for number, line in enumerate(file, 1):
            try:
                row = orjson.loads(line)
            except ValueError:
                row = None
            if not isinstance(row, dict):
                raise _wrong(kind, number, "it is no JSON object")
            yield number, row


def _wrong(kind: _Kind, number: int, said: str) -> DocumentError:
    return DocumentError.of(f"{kind.model._meta.verbose_name} {number}".capitalize(), said)


def _store(owner: User, archive: ZipFile, kind: _Kind, known: dict[tuple[str, Any], Any]) -> int:
    if kind.model is Controllers and Controllers.objects.filter(owner=owner).exists():
        return 0
    read_rows: list[tuple[Any, models.Model]] = []
    count = 0
    for number, row in _lines(archive, kind):
        try:
            read_rows.append((int(row["id"]), _made(owner, kind, row, known)))
        except DocumentError as problem:
            raise _wrong(kind, number, " ".join(one.sentence for one in problem.problems)) from None
        except ValidationError as problem:
            raise _wrong(kind, number, " ".join(problem.messages)) from None
        except (KeyError, TypeError, ValueError) as problem:
            raise _wrong(kind, number, f"it cannot be read: {str(problem)[:200]}") from None
        count = number
        if len(read_rows) >= _AT_ONCE:
            _keep(kind, read_rows, known)
    if issubclass(kind.model, Owned) and count:
        # Those that were kept meanwhile are counted with what was there.
        check_room(owner, kind.model, kind.most, len(read_rows))
    _keep(kind, read_rows, known)
    return count


def _made(owner: User, kind: _Kind, row: dict[str, Any], known: dict[tuple[str, Any], Any]) -> models.Model:
    """Return the row to store that *row* says: checked, and leading to rows as they are numbered here."""
    row = _renamed(row, known)
    row |= kind.checked(row)
    said: dict[str, Any] = {}
    for field in _fields(kind.model):
        if field.primary_key or field.attname not in row:
            continue
        value = row[field.attname]
        if field.is_relation:
            value = known.get((_label(field.related_model), value)) if value is not None else None
            if value is None and not field.null:
                raise DocumentError.of(field.name, "it belongs to something that is not in the file")
        said[field.attname] = value if field.is_relation else field.to_python(value)
    made = kind.model(**said, **({} if kind.parent else {"owner": owner}))
    # What a form would not leave empty may be empty here; documents were read by the engine.
    apart = [
        field.name
        for field in kind.model._meta.fields
        if field.is_relation or field.primary_key or said.get(field.attname) in ("", None, [])
    ]
    made.clean_fields(exclude=[*apart, "owner", "document", "changes", "data", "label"])
    return made


def _renamed(node: Any, known: dict[tuple[str, Any], Any]) -> Any:
    """Return *node* with the musician's own sounds called as they are numbered here."""
    if isinstance(node, list):
        return [_renamed(one, known) for one in node]
    if not isinstance(node, dict):
        return node
    is_of_sound = str(node.get("path", "")).endswith("/sound")
    return {
        key: _sound_here(value, known)
        if key == "sound" or (key == "value" and is_of_sound)
        else _renamed(value, known)
        for key, value in node.items()
    }


def _sound_here(value: Any, known: dict[tuple[str, Any], Any]) -> Any:
    number = value.removeprefix("own-") if isinstance(value, str) and value.startswith("own-") else ""
    here = known.get((_label(Sound), int(number))) if number.isdecimal() else None
    return value if here is None else f"own-{here}"


def _keep(kind: _Kind, rows: list[tuple[Any, models.Model]], known: dict[tuple[str, Any], Any]) -> None:
    """Store *rows*, with the times that they say, and note how they are numbered here; leave none in it."""
    times = [
        f.name
        for f in _fields(kind.model)
        if getattr(f, "auto_now_add", False) or getattr(f, "auto_now", False)
    ]
    then = [{name: getattr(made, name) for name in times} for _, made in rows]
    try:
        kind.model._default_manager.bulk_create([made for _, made in rows])
    except IntegrityError:
        raise DocumentError.of(
            str(kind.model._meta.verbose_name_plural), "some of them contradict one another"
        ) from None
    if times and rows:
        for (_, made), said in zip(rows, then, strict=True):
            for name, at in said.items():
                setattr(made, name, at or getattr(made, name))
        kind.model._default_manager.bulk_update([made for _, made in rows], times)
    known |= {(_label(kind.model), old): made.pk for old, made in rows}
    rows.clear()
