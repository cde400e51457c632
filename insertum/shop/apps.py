from django.apps import AppConfig


class ShopConfig(AppConfig):
    name = "insertum.shop"
    label = "shop"
    default_auto_field = "django.db.models.BigAutoField"
