from django.apps import AppConfig


class SeasonsConfig(AppConfig):
    name = "jarvok.app.facts.seasons"
