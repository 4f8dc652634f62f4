from django.apps import AppConfig


class DemoConfig(AppConfig):
    name = "jarvok.app.demo"
