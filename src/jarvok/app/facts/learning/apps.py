from django.apps import AppConfig


class LearningConfig(AppConfig):
    name = "jarvok.app.facts.learning"
    label = "learning"
