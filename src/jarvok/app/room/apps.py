from django.apps import AppConfig


class RoomConfig(AppConfig):
    name = "jarvok.app.room"
    label = "room"
