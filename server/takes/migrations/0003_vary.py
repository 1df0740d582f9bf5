from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("takes", "0002_keys_of_lanes")]

    operations = [
        migrations.AddField(
            model_name="takesheet",
            name="vary",
            field=models.PositiveSmallIntegerField(
                default=0,
                help_text="How many % of the hits a throw of each take's own moves, from the second take on.",
            ),
        ),
    ]
