from django.apps import AppConfig


class AthletesConfig(AppConfig):
    name = "jarvok.app.facts.athletes"
