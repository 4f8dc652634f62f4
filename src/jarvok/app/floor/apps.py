from django.apps import AppConfig


class FloorConfig(AppConfig):
    name = "jarvok.app.floor"
