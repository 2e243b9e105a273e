"""Steps belong to the case's one plan, and take notes, figures and what would not move; what was ticked is kept."""

import django.db.models.deletion
from django.db import migrations, models


def to_the_case(apps, schema_editor):
    """Give each entry its verdict's case, and its kind."""
    entry = apps.get_model("jobs", "StepEntry")
    for row in entry.objects.select_related("verdict"):
        row.case_id = row.verdict.case_id
        row.kind = "done" if row.done else "undone"
        row.save(update_fields=["case", "kind"])


class Migration(migrations.Migration):
    """From a verdict's ticks to a case's entries."""

    dependencies = [("cases", "0004_at_arms_length"), ("jobs", "0002_initial")]

    operations = [
        migrations.RenameModel("StepTick", "StepEntry"),
        migrations.AddField(
            "StepEntry",
            "case",
            models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.CASCADE, related_name="steps", to="cases.case"
            ),
        ),
        migrations.AddField("StepEntry", "kind", models.CharField(max_length=8, default="done"), preserve_default=False),
        migrations.AddField("StepEntry", "rung", models.CharField(blank=True, max_length=24)),
        migrations.AddField("StepEntry", "figure", models.JSONField(blank=True, default=dict)),
        migrations.AlterField("StepEntry", "step", models.CharField(max_length=60)),
        migrations.AlterField("StepEntry", "note", models.CharField(blank=True, max_length=400)),
        migrations.RunPython(to_the_case, migrations.RunPython.noop),
        migrations.RemoveField("StepEntry", "verdict"),
        migrations.RemoveField("StepEntry", "done"),
        migrations.AlterField(
            "StepEntry",
            "case",
            models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="steps", to="cases.case"),
        ),
    ]
