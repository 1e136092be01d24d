from django.apps import AppConfig


class TitlesConfig(AppConfig):
    name = "studio.titles"
    label = "titles"
