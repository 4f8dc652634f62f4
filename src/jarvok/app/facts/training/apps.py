from django.apps import AppConfig


class TrainingConfig(AppConfig):
    name = "jarvok.app.facts.training"
