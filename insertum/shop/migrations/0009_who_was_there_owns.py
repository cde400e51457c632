from django.db import migrations


def own(apps, schema_editor):
    """Who had a login before there were roles goes on doing everything; who comes later is given a role."""
    User, Person = apps.get_model("auth", "User"), apps.get_model("shop", "Person")
    for user in User.objects.filter(person__isnull=True):
        Person.objects.create(user=user, role="owner")


class Migration(migrations.Migration):
    dependencies = [("shop", "0008_step_times"), ("auth", "0012_alter_user_first_name_max_length")]
    operations = [migrations.RunPython(own, migrations.RunPython.noop)]
