"""What the registries know of packages' faults is asked, and a registry that says nothing holds nothing up."""

from __future__ import annotations

import json
import threading
from collections.abc import Iterator
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from importlib.machinery import SourceFileLoader
from importlib.util import module_from_spec, spec_from_loader
from pathlib import Path
from typing import Any

import pytest

ROOT = Path(__file__).resolve().parents[2]
KNOWN = {
    "pypi/sound/1.0/json": {"vulnerabilities": []},
    "pypi/faulty/2.0/json": {
        "vulnerabilities": [
            {"id": "F-1", "summary": "reads too far", "fixed_in": ["2.1"]},
            {"id": "F-2", "withdrawn": "2026-01-01T00:00:00Z"},
            {"id": "F-3"},
        ]
    },
}


class Registry(BaseHTTPRequestHandler):
    asked: list[str] = []

    def do_GET(self) -> None:
        self.asked.append(self.path)
        said = KNOWN.get(self.path.lstrip("/"))
        self.send_response(404 if said is None else 200)
        self.end_headers()
        self.wfile.write(b"" if said is None else json.dumps(said).encode())

    def log_message(self, *_: Any) -> None:
        pass


@pytest.fixture
def registry() -> Iterator[str]:
    Registry.asked = []
    server = ThreadingHTTPServer(("127.0.0.1", 0), Registry)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield f"http://127.0.0.1:{server.server_port}/"
    server.shutdown()


@pytest.fixture(scope="module")
def audit() -> Any:
    loader = SourceFileLoader("audit", str(ROOT / "scripts" / "audit"))
    spec = spec_from_loader("audit", loader)
    assert spec is not None
    module = module_from_spec(spec)
    loader.exec_module(module)
    return module


def test_what_is_known_of_a_package_is_said_but_for_what_was_withdrawn(audit: Any, registry: str) -> None:
    found, answered = audit.known_of(registry, [("sound", "1.0"), ("faulty", "2.0")])
    assert answered == 2
    assert found == ["faulty 2.0: F-1 reads too far (mended in 2.1)", "faulty 2.0: F-3 (mended in nothing yet)"]


def test_a_registry_that_says_nothing_is_not_asked_about_every_package(audit: Any, registry: str) -> None:
    assert audit.known_of(registry, [(f"unknown{n}", "1") for n in range(40)]) == ([], 0)
    assert len(Registry.asked) == audit.SILENT


def test_one_that_says_nothing_of_some_is_asked_about_the_rest(audit: Any, registry: str) -> None:
    packages = [("sound", "1.0"), *((f"unknown{n}", "1") for n in range(5)), ("faulty", "2.0")]
    found, answered = audit.known_of(registry, packages)
    assert (len(found), answered) == (2, 2)


def test_without_a_network_nothing_is_known(audit: Any) -> None:
    assert audit.known_of("http://127.0.0.1:9/", [("sound", "1.0")] * 5) == ([], 0)


@pytest.mark.parametrize(
    ("said", "found"),
    [
        ("", None),
        ('{"message": "audit endpoint returned an error"}', None),
        ('{"vulnerabilities": {}}', []),
        ('{"vulnerabilities": {"left": {"severity": "high", "range": "<1.2"}}}', ["left: high, <1.2"]),
    ],
)
def test_what_npm_says_is_read(audit: Any, said: str, found: list[str] | None) -> None:
    assert audit.known_by_npm(said) == found
