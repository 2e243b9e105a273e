"""A case's one recheck becomes one of the vehicle's rechecks; none is lost."""

from django.db import migrations


def to_the_vehicle(apps, schema_editor):
    """Write each old recheck anew as a look at the vehicle, by the one who closed its case."""
    old, new = apps.get_model("jobs", "Recheck"), apps.get_model("upkeep", "Recheck")
    for row in old.objects.select_related("case").iterator():
        case = row.case
        later = case.vehicle.cases.filter(opened_at__gt=case.closed_at).order_by("opened_at").first() if case.closed_at else None
        made = new.objects.create(
            workshop_id=case.workshop_id,
            vehicle_id=case.vehicle_id,
            case=case,
            key="own",
            label="Look again",
            asks="listen",
            why=row.why,
            due_on=row.due_on,
            after_km=row.after_km,
            expected_on=row.due_on,
            planned_by_id=case.closed_by_id or case.opened_by_id,
            # A later case of the vehicle ended the old one without a word.
            done_at=later.opened_at if later else None,
            done_by_id=later.opened_by_id if later else None,
            said="a new case was opened" if later else "",
        )
        new.objects.filter(pk=made.pk).update(planned_at=case.closed_at or case.opened_at)


class Migration(migrations.Migration):
    """From the case to the vehicle."""

    dependencies = [("jobs", "0003_the_hub_itself"), ("upkeep", "0001_initial"), ("garage", "0006_torque_book")]

    operations = [
        migrations.RunPython(to_the_vehicle, migrations.RunPython.noop),
        migrations.DeleteModel("Recheck"),
    ]
