from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("store", "0006_binding_rows")]
    operations = [
        migrations.AddField(
            model_name="mode", name="selectors", field=models.TextField(default="[]")
        ),
    ]
