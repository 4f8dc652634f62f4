"""How the API describes itself: what is true of every road is said once, here."""

from __future__ import annotations

from http.client import responses as http_words
from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema
from ninja.operation import Operation

from jarvok.app.api.problems import OF_A_PROBLEM

UNCHANGED = "Nothing has changed since the answer whose ETag was sent as If-None-Match."
ANSWER = "response"  # the one field of what the framework wraps every answer in


class Description(OpenAPISchema):
    """The description of the whole API. An answer that many roads give is described once: each takes a tenth of a second."""

    def __init__(self, api: NinjaAPI, path_prefix: str) -> None:
        self._of_answers: dict[Any, Any] = {}
        super().__init__(api, path_prefix)

    def _create_schema_from_model(self, model: Any, *args: Any, **how: Any) -> Any:
        fields = model.model_fields
        if set(fields) != {ANSWER}:
            return super()._create_schema_from_model(model, *args, **how)
        key = (fields[ANSWER].annotation, args, tuple(sorted(how.items())))
        if key not in self._of_answers:
            self._of_answers[key] = super()._create_schema_from_model(model, *args, **how)
        return self._of_answers[key]

    def responses(self, operation: Operation) -> dict[int, dict[str, Any]]:
        """What a road answers: what it names, and each kind of a problem."""
        found = super().responses(operation)
        if ... not in operation.response_models:
            return found
        model = operation.response_models[...]
        schema = self._create_schema_from_model(model, by_alias=operation.by_alias, mode="serialization")[0]
        content = {"content": {self.api.renderer.media_type: {"schema": schema}}}
        return found | {code: {"description": http_words[code], **content} for code in OF_A_PROBLEM if code not in found}


class Api(NinjaAPI):
    """The API, whose readers need not be sent again what they hold."""

    _described: OpenAPISchema | None = None

    def get_openapi_schema(self, *, path_prefix: str | None = None, path_params: dict[str, Any] | None = None) -> OpenAPISchema:
        """The description, worked out once, each reading road with the answer that nothing has changed."""
        if self._described is None:
            described = Description(self, self.get_root_path(path_params or {}) if path_prefix is None else path_prefix)
            for road in described["paths"].values():
                if "get" in road:
                    road["get"]["responses"].setdefault(304, {"description": UNCHANGED})
            self._described = described
        return self._described
