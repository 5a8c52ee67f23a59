from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("store", "0011_waivers"),
    ]

    operations = [
        migrations.AddField(
            model_name="mode",
            name="direction",
            field=models.CharField(blank=True, max_length=3),
        ),
    ]
