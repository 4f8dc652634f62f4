from django.apps import AppConfig


class SeasonsConfig(AppConfig):
    name = "jarvok.app.seasons"
