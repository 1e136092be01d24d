from django.apps import AppConfig


class ExportsConfig(AppConfig):
    name = "studio.exports"
    label = "exports"
