"""Roles, ways in, devices. Whoever was there could do everything, and goes on so: an owner."""

import django.db.models.deletion
import django.utils.timezone
import uuid
from django.conf import settings
from django.db import migrations, models


def as_before(apps, schema_editor):
    """Make those who can sign in owners, and mark the demo's person by its workshop's name."""
    people = apps.get_model("people", "User").objects
    people.filter(is_active=True).update(role="owner")
    people.filter(username="mechanic", workshop__name="Quillmere Library Service").update(demo=True)


class Migration(migrations.Migration):

    dependencies = [
        ('people', '0001_initial'),
    ]

    operations = [
        migrations.AddField(
            model_name='user',
            name='demo',
            field=models.BooleanField(default=False),
        ),
        migrations.AddField(
            model_name='user',
            name='role',
            field=models.CharField(choices=[('reader', 'Reader'), ('apprentice', 'Apprentice'), ('mechanic', 'Mechanic'), ('owner', 'Owner')], default='mechanic', max_length=12),
        ),
        migrations.CreateModel(
            name='Device',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('session_key', models.CharField(max_length=40, unique=True)),
                ('agent', models.CharField(blank=True, max_length=200)),
                ('since', models.DateTimeField(default=django.utils.timezone.now)),
                ('seen_at', models.DateTimeField(default=django.utils.timezone.now)),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='devices', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['-seen_at'],
            },
        ),
        migrations.CreateModel(
            name='Invitation',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('kind', models.CharField(choices=[('set_up', 'Set Up'), ('join', 'Join'), ('reset', 'Reset')], max_length=8)),
                ('hash', models.CharField(max_length=64, unique=True)),
                ('role', models.CharField(choices=[('reader', 'Reader'), ('apprentice', 'Apprentice'), ('mechanic', 'Mechanic'), ('owner', 'Owner')], default='mechanic', max_length=12)),
                ('made_at', models.DateTimeField(default=django.utils.timezone.now)),
                ('ends_at', models.DateTimeField(null=True)),
                ('used_at', models.DateTimeField(null=True)),
                ('made_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('person', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('workshop', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='invitations', to='people.workshop')),
            ],
        ),
        migrations.RunPython(as_before, migrations.RunPython.noop),
    ]
