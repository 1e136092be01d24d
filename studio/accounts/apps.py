from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "studio.accounts"
    label = "accounts"
