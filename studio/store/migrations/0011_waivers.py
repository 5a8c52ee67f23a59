from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("store", "0010_long_tasks"),
    ]

    operations = [
        migrations.AddField(
            model_name="pairing",
            name="waived_by",
            field=models.CharField(blank=True, max_length=200),
        ),
        migrations.AddField(
            model_name="pairing",
            name="waived_until",
            field=models.CharField(blank=True, max_length=10),
        ),
    ]
