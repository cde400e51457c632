# Two commands matter: `make demo` and `make test`. `make help` lists the rest.
SHELL := /bin/bash
PY := .venv/bin/python
PORT ?= 8000
# What the long targets draw with: new each time, told, and repeated with `make planexact SEED=7`.
SEED := $(or $(SEED),$(shell od -An -N3 -tu4 /dev/urandom | tr -d " "))
WEB_SOURCES := $(shell find web/src web/public web/index.html web/*.ts web/package-lock.json -type f 2>/dev/null)

.PHONY: help demo test check check-python check-web deps wheel pytest web client schemas shots bench clean install browser fresh soundness mutants fuzz planexact technicians kills document

help: ## list these commands
	@grep -E '^[a-z]+:.*##' Makefile | sed -E 's/:.*## /\t/' | expand -t 12

demo: ## build what changed, load the demo workshop, serve it on 127.0.0.1:8000
	@bin/demo $(PORT)

test: ## everything CI runs, in the same order
	@bin/test

deps: .venv/.done web/node_modules/.done

install: web ## a workshop of your own: environment and web build; then .venv/bin/insertum serve
	@echo "Installed. Start your workshop with: .venv/bin/insertum serve"

wheel: web ## build dist/insertum-*.whl, which carries the web build
	@rm -rf insertum/web build && cp -r web/dist insertum/web
	@.venv/bin/pip wheel --quiet --disable-pip-version-check --no-deps --wheel-dir dist . && rm -rf insertum/web build
	@ls dist/*.whl

.venv/.done: requirements.lock pyproject.toml
	@echo "== Python environment"
	@test -x $(PY) || python3 -m venv .venv
	@.venv/bin/pip install --quiet --disable-pip-version-check -r requirements.lock
	@.venv/bin/pip install --quiet --disable-pip-version-check --no-deps -e .
	@touch $@

web/node_modules/.done: web/package-lock.json web/package.json
	@echo "== Node packages"
	@cd web && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

web: deps web/dist/.done ## build the web application

web/dist/.done: $(WEB_SOURCES) web/node_modules/.done
	@echo "== Web build"
	@cd web && npx vite build --logLevel warn
	@touch $@

client: deps ## generate the OpenAPI document and the TypeScript client from the API
	@INSERTUM_DEMO=1 INSERTUM_SECRET_KEY=only-for-the-document-$$RANDOM $(PY) manage.py openapi > web/openapi.json
	@cd web && npx openapi-typescript openapi.json -o src/api/schema.generated.d.ts >/dev/null

schemas: deps ## generate docs/formats, docs/rules.md and the types of what rules read from the core
	@$(PY) -m insertum.formats.fact_types && .venv/bin/ruff format -q insertum/core/fit/shape_facts.py
	@$(PY) -m insertum.formats.schemas

check: check-python check-web ## ruff, mypy, import rules; eslint, prettier, tsc

check-python: deps
	@.venv/bin/ruff check .
	@.venv/bin/ruff format --check -q .
	@.venv/bin/mypy
	@$(PY) bin/sizes
	@.venv/bin/lint-imports --no-cache >/tmp/insertum-imports.log || { cat /tmp/insertum-imports.log; exit 1; }

check-web: deps
	@cd web && npm run -s lint && npx tsc --noEmit

shots: web ## take docs/screenshots anew from the demo data
	@$(PY) bin/shots

bench: deps ## print the benchmarks' ratios
	@for b in benchmarks/*.py; do $(PY) $$b; done

planexact: deps ## the planner against brute force on thousands of cases
	@echo "seed $(SEED)"
	@INSERTUM_SEED=$(SEED) INSERTUM_CASES=900 .venv/bin/pytest -q -n auto tests/core/test_plan_exact.py tests/core/test_plan_laws.py tests/core/test_frontier.py tests/core/test_memory_cases.py

soundness: deps ## 20,000 random pairs: nothing is said that is not so
	@echo "seed $(SEED)"
	@INSERTUM_SEED=$(SEED) INSERTUM_SOUNDNESS=20000 .venv/bin/pytest -q tests/core/test_soundness.py tests/core/test_fit_properties.py

fuzz: deps ## 100,000 mutated readings, labels, images and files: a result or an error in words
	@echo "seed $(SEED)"
	@INSERTUM_SEED=$(SEED) INSERTUM_FUZZ=100000 .venv/bin/pytest -q tests/formats/test_fuzz.py tests/formats/test_laptop.py tests/api/test_fuzz.py

technicians: deps ## eight technicians tick 2,000 steps each while the server is killed under them
	@echo "seed $(SEED)"
	@INSERTUM_SEED=$(SEED) INSERTUM_TICKS=2000 .venv/bin/pytest -q tests/api/test_technicians.py

kills: deps ## the server killed 200 times under edits, machines, lists and photographs
	@echo "seed $(SEED)"
	@INSERTUM_SEED=$(SEED) INSERTUM_KILLS=200 .venv/bin/pytest -q -s tests/api/test_killed.py tests/api/test_serving.py

document: deps ## whatever the OpenAPI document allows, sixty times a call
	@echo "seed $(SEED)"
	@INSERTUM_SEED=$(SEED) INSERTUM_DOCUMENT=60 .venv/bin/pytest -q -n 2 tests/api/test_document.py

mutants: deps ## small mutations of everything written by hand, and which of them no test catches
	@$(PY) bin/mutants

fresh: ## forget the demo database
	rm -rf var

clean: ## remove everything that was made
	rm -rf .venv web/node_modules web/dist var
