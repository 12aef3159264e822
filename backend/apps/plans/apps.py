from django.apps import AppConfig


class PlansConfig(AppConfig):
    name = "apps.plans"
