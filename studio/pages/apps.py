from django.apps import AppConfig


class PagesConfig(AppConfig):
    name = "studio.pages"
    label = "pages"
