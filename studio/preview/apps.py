from django.apps import AppConfig


class PreviewConfig(AppConfig):
    name = "studio.preview"
    label = "preview"
