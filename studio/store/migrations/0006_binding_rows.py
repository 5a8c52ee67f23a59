"""Each binding of a scene becomes a row of its own."""

import json

from django.db import migrations


def part_rows(apps, kind):
    return apps.get_model("store", "Part").objects.filter(kind=kind).order_by("position")


def apart(apps, schema_editor):
    """Take the list of bindings out of each scene's row."""
    Part = apps.get_model("store", "Part")
    for scene in part_rows(apps, "scene"):
        row = json.loads(scene.text)
        Part.objects.bulk_create(
            Part(
                project_id=scene.project_id,
                kind="binding",
                key=f"{scene.key} {slot}",
                position=position,
                text=json.dumps({"token": token}, ensure_ascii=False),
            )
            for position, (slot, token) in enumerate(row.pop("bindings", ()))
        )
        scene.text = json.dumps(row, ensure_ascii=False)
        scene.save(update_fields=["text"])


def together(apps, schema_editor):
    """Put the bindings back into the row of their scene."""
    for scene in part_rows(apps, "scene"):
        bindings = part_rows(apps, "binding").filter(
            project_id=scene.project_id, key__startswith=f"{scene.key} "
        )
        row = json.loads(scene.text)
        row["bindings"] = [
            [binding.key.split(" ", 1)[1], json.loads(binding.text)["token"]]
            for binding in bindings
        ]
        scene.text = json.dumps(row, ensure_ascii=False)
        scene.save(update_fields=["text"])
    part_rows(apps, "binding").delete()


class Migration(migrations.Migration):
    dependencies = [("store", "0005_journal_command")]
    operations = [migrations.RunPython(apart, together)]
