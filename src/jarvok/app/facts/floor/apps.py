from django.apps import AppConfig


class FloorConfig(AppConfig):
    name = "jarvok.app.facts.floor"
