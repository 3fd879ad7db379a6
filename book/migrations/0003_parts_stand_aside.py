"""The hitch parts of one hitch make way for parts that are things of their own."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("book", "0002_initial")]

    operations = [
        migrations.RenameModel("HitchPart", "OldHitchPart"),
        migrations.RenameModel("CouplerPart", "OldCouplerPart"),
        migrations.AlterField(
            "oldhitchpart",
            "hitch",
            models.ForeignKey(on_delete=models.CASCADE, related_name="old_parts", to="book.hitch"),
        ),
        migrations.AlterField(
            "oldcouplerpart",
            "trailer",
            models.ForeignKey(on_delete=models.CASCADE, related_name="old_parts", to="book.trailer"),
        ),
    ]
