"""A haul's machine may also be a bulk load; the link is named for both."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("hauls", "0002_initial")]

    operations = [
        migrations.RenameModel("HaulMachine", "HaulItem"),
        migrations.AlterField(
            "haulitem",
            "haul",
            models.ForeignKey(on_delete=models.CASCADE, related_name="links", to="hauls.haul"),
        ),
    ]
