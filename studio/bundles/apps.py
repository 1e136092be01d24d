from django.apps import AppConfig


class BundlesConfig(AppConfig):
    name = "studio.bundles"
    label = "bundles"
