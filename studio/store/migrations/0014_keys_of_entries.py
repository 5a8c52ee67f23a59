"""Let the journal be asked by token."""

import json

import django.contrib.postgres.fields
import django.contrib.postgres.indexes
from django.db import migrations, models

from prism.compare.diff import tokens_of
from prism.compare.earlier import operations_from

_AT_ONCE = 200


def fill(apps, schema_editor):
    """Read of each entry which tokens its operations change."""
    entries = apps.get_model("store", "JournalEntry").objects
    changed = []
    for entry in entries.only("pk", "operations").iterator(_AT_ONCE):
        entry.tokens = tokens_of(operations_from(json.loads(entry.operations)))
        changed.append(entry)
        if len(changed) == _AT_ONCE:
            entries.bulk_update(changed, ["tokens"])
            changed.clear()
    entries.bulk_update(changed, ["tokens"])


class Migration(migrations.Migration):
    dependencies = [("store", "0013_task_beat")]

    operations = [
        migrations.AddField(
            model_name="journalentry",
            name="tokens",
            field=django.contrib.postgres.fields.ArrayField(
                base_field=models.TextField(), default=list, size=None
            ),
        ),
        migrations.RunPython(fill, migrations.RunPython.noop),
        migrations.AddIndex(
            model_name="journalentry",
            index=django.contrib.postgres.indexes.GinIndex(
                fields=["tokens"], name="journal_by_part"
            ),
        ),
    ]
