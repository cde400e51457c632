"""Stored shapes of the first versions, brought up by the core's own upgraders."""

from django.db import migrations

from insertum.core.machine.upgrade import found_1_to_2, job_1_to_2, machine_upgraded, part_1_to_2


def bring_up(apps, schema_editor):
    def each(name):
        return apps.get_model("shop", name).objects.all().iterator()

    for row in each("Machine"):
        row.spec = machine_upgraded(row.spec)
        row.save(update_fields=["spec"])
    for row in each("Part"):
        row.spec = part_1_to_2(row.spec)
        row.save(update_fields=["spec"])
    for row in each("Job"):
        row.spec = job_1_to_2(row.spec) if row.spec.get("format") == "insertum-job/1" else row.spec
        row.save(update_fields=["spec"])
    reviews = apps.get_model("shop", "ClaimReview")
    for row in list(reviews.objects.filter(attribute__regex=r"\.(pcie|sata)$")):
        for place, value in found_1_to_2({row.attribute: row.value}).items():
            if place == row.attribute and value == row.value:
                continue
            if row.attribute.endswith(".sata") or place.endswith("_lanes"):
                row.attribute, row.value = place, value
                row.save(update_fields=["attribute", "value"])
            else:
                row.pk, row.attribute, row.value = None, place, value
                row.save()


class Migration(migrations.Migration):
    dependencies = [("shop", "0002_library_sightings_shelf")]
    operations = [migrations.RunPython(bring_up, migrations.RunPython.noop)]
