from django.apps import AppConfig


class RoomConfig(AppConfig):
    name = "jarvok.app.facts.room"
    label = "room"
