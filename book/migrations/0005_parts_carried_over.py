"""Each hitch part of one hitch becomes a part of the yard, linked to where it was."""

from django.db import migrations

KINDS = (
    ("sleeve", "sleeve"),
    ("reducer", "sleeve"),
    ("mount", "mount"),
    ("shank", "mount"),
    ("receiver", "receiver"),
    ("gooseneck coupler", "coupler"),
    ("coupler", "coupler"),
    ("chain", "chains"),
    ("gooseneck", "gooseneck_ball"),
    ("fifth", "fifth_wheel"),
    ("pintle", "pintle"),
    ("head", "head"),
    ("ball", "ball"),
)
RATINGS = (
    "max_trailer_mass",
    "max_tongue_mass",
    "max_trailer_mass_wd",
    "max_tongue_mass_wd",
)


def kind_of(name):
    """The kind that a part's name speaks of."""
    return next((kind for word, kind in KINDS if word in name.lower()), "other")


def carry_over(apps, schema_editor):
    """Copy every old part; nothing is taken away."""
    part_model = apps.get_model("book", "HitchPart")

    def carried(old, yard_id, owner):
        name = f"{old.name}, {owner}"[:120]
        count = 2
        while part_model.objects.filter(yard_id=yard_id, name=name).exists():
            name, count = f"{old.name}, {owner}"[:114] + f" ({count})", count + 1
        return part_model.objects.create(
            yard_id=yard_id,
            name=name,
            kind=kind_of(old.name),
            **{field: getattr(old, field) for field in RATINGS},
        )

    for old in apps.get_model("book", "OldHitchPart").objects.select_related("hitch__truck"):
        truck = old.hitch.truck
        apps.get_model("book", "HitchLink").objects.create(
            hitch=old.hitch, part=carried(old, truck.yard_id, truck.name)
        )
    for old in apps.get_model("book", "OldCouplerPart").objects.select_related("trailer"):
        trailer = old.trailer
        apps.get_model("book", "TrailerPart").objects.create(
            trailer=trailer, part=carried(old, trailer.yard_id, trailer.name)
        )


class Migration(migrations.Migration):
    dependencies = [("book", "0004_the_book_in_full")]

    operations = [migrations.RunPython(carry_over, migrations.RunPython.noop)]
