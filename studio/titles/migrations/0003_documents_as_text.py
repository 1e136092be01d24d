"""Documents as text, and what lists need of them in columns of their own.

What is kept already is only looked through, not checked: a document that no longer passes must not
stop a migration. Every text in it that ends like a picture or a font counts as a file that it uses.
"""

import json

from django.db import migrations, models

_FILES = (".png", ".jpg", ".jpeg", ".webp", ".tif", ".tiff", ".exr", ".hdr", ".svg",
          ".ttf", ".otf", ".woff", ".woff2")


def _object(document):
    raw = json.loads(document) if isinstance(document, str) else document
    return raw if isinstance(raw, dict) else {}


def _files(raw):
    found, todo = set(), [raw]
    while todo:
        part = todo.pop()
        if isinstance(part, dict):
            todo += part.values()
        elif isinstance(part, list):
            todo += part
        elif isinstance(part, str) and part.lower().endswith(_FILES):
            found.add(part)
    return sorted(name for name in found if not name.startswith("shipped/"))


def fill_columns(apps, schema_editor):
    for name in ("Title", "Mark", "Finish"):
        for row in apps.get_model("titles", name).objects.iterator():
            raw = _object(row.document)
            row.files = _files(raw)
            if name == "Title":
                frame = raw.get("frame") or {}
                row.width, row.height = frame.get("width", 0), frame.get("height", 0)
                row.duration = frame.get("duration", 0)
            if name == "Finish":
                row.label, row.help = raw.get("label", row.name), raw.get("help", "")
                row.scene = raw.get("camera") is not None
            row.save()


class Migration(migrations.Migration):
    dependencies = [("titles", "0002_series_and_marks")]

    operations = [
        *(
            migrations.AlterField(model, "document", models.TextField())
            for model in ("title", "revision", "mark", "finish")
        ),
        *(
            migrations.AddField(model, "files", models.JSONField(default=list))
            for model in ("title", "mark", "finish")
        ),
        migrations.AddField("title", "width", models.PositiveIntegerField(default=0)),
        migrations.AddField("title", "height", models.PositiveIntegerField(default=0)),
        migrations.AddField("title", "duration", models.FloatField(default=0)),
        migrations.AddField("finish", "label", models.CharField(max_length=100, default="")),
        migrations.AddField(
            "finish", "help", models.CharField(max_length=400, blank=True, default="")
        ),
        migrations.AddField("finish", "scene", models.BooleanField(default=False)),
        migrations.RunPython(fill_columns, migrations.RunPython.noop),
    ]
