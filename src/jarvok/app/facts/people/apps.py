from django.apps import AppConfig


class PeopleConfig(AppConfig):
    name = "jarvok.app.facts.people"
