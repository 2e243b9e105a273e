"""What long lists ask of a verdict, beside its snapshot."""

from django.db import migrations, models


def brief_of(snapshot: dict, choice: str) -> dict:
    """Return it as it was on the day of this migration."""
    prices = snapshot.get("prices") or {}
    now = next((row["now"] for row in prices.get("rows", []) if row["choice"] == choice), None)
    ways = (snapshot.get("policy") or {}).get("schools") or {}
    return {"ways": ways} | ({} if now is None else {"now": now, "currency": prices["currency"]})


def fill(apps, schema_editor):
    """Take it out of every snapshot, a few at a time."""
    verdicts = apps.get_model("verdicts", "Verdict").objects
    for row in verdicts.only("id", "choice", "snapshot").iterator(chunk_size=200):
        verdicts.filter(id=row.id).update(brief=brief_of(row.snapshot, row.choice))


class Migration(migrations.Migration):
    dependencies = [("verdicts", "0004_alter_departure_at_alter_verdict_at")]

    operations = [
        migrations.AddField("verdict", "brief", models.JSONField(blank=True, default=dict)),
        migrations.RunPython(fill, migrations.RunPython.noop),
    ]
