from django.apps import AppConfig


class CentreConfig(AppConfig):
    name = "jarvok.app.facts.centre"
