from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("store", "0008_token_role"),
    ]

    operations = [
        migrations.AddField(
            model_name="token",
            name="belongs_to",
            field=models.CharField(blank=True, max_length=200),
        ),
    ]
