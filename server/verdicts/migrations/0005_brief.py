"""What long lists ask of a verdict, beside its snapshot."""

from django.db import migrations, models


def brief_of(snapshot: dict, hub: str, choice: str) -> dict:
    """Return it as it was on the day of this migration."""
    hubs = (row for axle in (snapshot.get("vehicle") or {}).get("axles", []) for row in axle["hubs"])
    design = next((row["design"] for row in hubs if row["id"] == hub), None)
    prices = snapshot.get("prices") or {}
    now = next((row["now"] for row in prices.get("rows", []) if row["choice"] == choice), None)
    found = {"ways": (snapshot.get("policy") or {}).get("schools") or {}, "design": design, "now": now}
    found["currency"] = None if now is None else prices["currency"]
    return {name: value for name, value in found.items() if value is not None}


def fill(apps, schema_editor):
    """Take it out of every snapshot, a few at a time."""
    verdicts = apps.get_model("verdicts", "Verdict").objects
    for row in verdicts.only("id", "hub", "choice", "snapshot").iterator(chunk_size=200):
        verdicts.filter(id=row.id).update(brief=brief_of(row.snapshot, row.hub, row.choice))


class Migration(migrations.Migration):
    dependencies = [("verdicts", "0004_alter_departure_at_alter_verdict_at")]

    operations = [
        migrations.AddField("verdict", "brief", models.JSONField(blank=True, default=dict, editable=False)),
        migrations.RunPython(fill, migrations.RunPython.noop),
    ]
