# make demo and make test are all a newcomer needs; the rest is for working on Jarvok.
SHELL := /bin/bash
PORT ?= 8000
ATHLETES ?= 200
PY := .venv/bin/python
export PYTHONPATH := src
APP := $(PY) -m pytest -n auto --dist worksteal --durations=15 \
  -p no:playwright -p no:base_url -p no:rerunfailures -p no:benchmark -p no:anyio
CORE := $(PY) -m pytest -c tests/core/pytest.ini --rootdir . tests/core src/jarvok/core --doctest-modules -n auto --dist worksteal --durations=10
unexport PYTHONDONTWRITEBYTECODE # every process would compile everything again

.PHONY: demo start test test-postgres test-app-on-postgres test-processes test-core coverage check check-types check-style fmt lint bench bench-together large bench-large dev types pins clean

READY := @$(MAKE) -s -j2 # two packages' registries, or a build and an installation, at a time

demo:
	$(READY) .build/web
	@scripts/demo $(PORT)

start:
	$(READY) .build/web
	@scripts/start $(PORT)

test:
	$(READY) .build/dev .build/web .build/browser
	$(CORE)
	@$(PY) tests/support/demo_file.py & $(APP) tests/files tests/app --junitxml=.build/app-sqlite.xml && wait
	cd web && npm run -s test
	$(PY) -m pytest tests/browser -n 3 --dist loadfile --reruns 1 --durations=10 -rPR --show-capture=stdout

test-postgres: .build/dev # the application's tests on PostgreSQL too; beside them, since they wait for much, those of two processes
	@scripts/postgres start >/dev/null
	@$(MAKE) -s -j2 --output-sync=target test-app-on-postgres test-processes

test-app-on-postgres: .build/dev
	@export JARVOK_DATABASE_URL=$$(scripts/postgres start) && $(APP) tests/app --create-db --junitxml=.build/app-postgres.xml

test-processes: .build/dev # a centre in PostgreSQL, served by two processes
	@export JARVOK_DATABASE_URL=$$(scripts/postgres start) && $(PY) -m pytest tests/postgres -p no:django --durations=5

test-core: .build/dev
	$(CORE)

coverage: .build/dev # branches of the core alone
	$(PY) -m pytest tests/core -n auto --cov=jarvok.core --cov-branch --cov-report=json:.build/coverage.json --cov-report=
	@$(PY) scripts/branch_coverage .build/coverage.json

check:
	$(READY) .build/dev .build/node
	@$(MAKE) -s -j2 --output-sync=target check-types check-style

check-types:
	.venv/bin/mypy
	cd web && npm run -s check-types
	@scripts/types-are-current
	$(PY) manage.py makemigrations --check --dry-run
	.venv/bin/lint-imports
	@scripts/unmarked_numbers
	@scripts/long_functions
	@scripts/words --check
	@$(PY) -m pytest --collect-only -p no:django tests/postgres >/dev/null # what the suite does not run
	@$(PY) -m pytest --collect-only tests/bench >/dev/null
	@$(PY) scripts/pinned
	@$(PY) scripts/audit

check-style: lint
	cd web && npm run -s check-style

lint: .build/dev
	.venv/bin/ruff check . && .venv/bin/ruff format --check .

fmt: .build/dev .build/node
	.venv/bin/ruff check --fix-only -q . && .venv/bin/ruff format -q .
	cd web && npm run -s format

bench: .build/dev
	$(PY) -m pytest tests/bench --benchmark-columns=min,median,rounds -s

bench-together: .build/dev # forty people at four processes on PostgreSQL: JARVOK_TOGETHER_S=60 for a minute
	@export JARVOK_DATABASE_URL=$$(scripts/postgres start) && $(PY) -m pytest tests/bench/test_together.py -s -k forty

large: .build/venv # a centre of many athletes and three years, for measuring: ATHLETES=1000 for more
	@JARVOK_VAR=var/large-$(ATHLETES) $(PY) manage.py large_centre --athletes $(ATHLETES)

bench-large: .build/dev large
	@JARVOK_VAR=var/large-$(ATHLETES) $(PY) scripts/page_times.py

dev: .build/dev .build/node
	$(PY) manage.py migrate -v0 && $(PY) manage.py demo_data
	@echo "Pages with reloading on the address Vite prints; the server answers on port 8000."
	@trap 'kill 0' EXIT; JARVOK_LOCAL_DEMO=1 .venv/bin/uvicorn jarvok.app.asgi:application --reload --reload-dir src --port 8000 --lifespan off --timeout-graceful-shutdown 1 & cd web && npx vite

types: .build/dev .build/node
	$(PY) manage.py export_openapi_schema --api jarvok.app.urls.api --indent 1 > docs/openapi.json
	cd web && npm run -s types

pins: .build/dev # after a change of requirements*.in
	.venv/bin/uv pip compile -q --generate-hashes --no-emit-index-url --no-emit-find-links --custom-compile-command "make pins" -o requirements.txt requirements.in
	.venv/bin/uv pip compile -q --generate-hashes --no-emit-index-url --no-emit-find-links --custom-compile-command "make pins" -c requirements.txt -o requirements-dev.txt requirements-dev.in

clean:
	rm -rf .build .venv web/node_modules web/dist var

.build/tools:
	@scripts/need-tools
	@mkdir -p .build && touch $@

.build/venv: requirements.txt | .build/tools # what is never loaded need not be compiled: --no-compile
	@echo "Python packages …"
	@test -x $(PY) || "$$(scripts/find-python)" -m venv .venv
	@.venv/bin/pip install -q --disable-pip-version-check --no-compile --require-hashes -r requirements.txt
	@touch $@

.build/dev: requirements-dev.txt .build/venv
	@.venv/bin/pip install -q --disable-pip-version-check --no-compile --require-hashes -r requirements-dev.txt
	@touch $@

.build/node: web/package.json web/package-lock.json | .build/tools
	@echo "Packages of the pages …"
	@cd web && npm ci --silent --no-progress
	@touch $@

.build/web: .build/venv .build/node $(shell find web/src web/public web/index.html web/vite.config.ts -type f 2>/dev/null)
	@echo "Building the pages …"
	@cd web && npm run -s build > ../.build/web.log 2>&1 || { cat ../.build/web.log; exit 1; }
	@$(PY) -m whitenoise.compress -q web/dist
	@touch $@

.build/browser: | .build/tools
	@scripts/need-browser
	@touch $@
