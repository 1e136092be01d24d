# `make demo` and `make test` start from an empty clone; a second run takes seconds.
SHELL := /bin/bash
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
NODE := frontend/node_modules
STAMPS := var/stamps
PORT ?= 8000

ENGINE_FILES := $(shell find mabrel -name '*.py' -not -path '*/__pycache__/*')
FRONT_FILES := $(shell find frontend/src -type f -not -name 'schema.*') frontend/index.html frontend/vite.config.ts

.PHONY: help setup demo test bench turntable keys fuzz kills pages clips attacks screenshots gallery lint format types steps demo-titles fixtures fonts schema lock clean

help: ## List what can be made
	@grep -hE '^[a-z-]+:.*## ' $(MAKEFILE_LIST) | sed -E 's/:.*## /\t/' | expand -t 14

setup: $(STAMPS)/system $(STAMPS)/python $(STAMPS)/kernels $(STAMPS)/shots $(STAMPS)/front $(STAMPS)/database ## Install and build all that is needed

demo: setup ## Start the application with the demo data
	@$(BIN)/python manage.py load_demo
	@$(BIN)/python manage.py keep_pictures
	@echo "Mabrel is at http://127.0.0.1:$(PORT)"
	@$(BIN)/python -m studio --port $(PORT)

test: setup lint ## Check the code and run all tests
	cd frontend && npm run --silent test
	$(BIN)/python -m tools.run_tests

lint: setup ## Check style, types and imports
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports
	cd frontend && npm run --silent lint && npm run --silent check

format: setup ## Put the code in shape
	$(BIN)/ruff check --fix .
	$(BIN)/ruff format .
	cd frontend && npm run --silent format

bench: setup ## Measure, and write the tables of docs/performance.md
	$(BIN)/python -m tools.bench

keys: setup ## Change every field of a rich title and see that nothing stale is shown
	MABREL_SWEEP=full $(BIN)/python -m pytest tests/engine/test_keys.py

turntable: setup ## Turn five titles all around and see that no frame has a hole, a jump or saw-teeth
	MABREL_SWEEP=full $(BIN)/python -m pytest tests/engine/test_turntable.py

fuzz: setup ## Send a studio 10,000 random requests and 2,000 damaged files
	$(BIN)/python -m tools.fuzz

kills: setup ## Kill a studio 100 times while it saves, uploads, deletes and exports
	$(BIN)/python -m tools.kills

clips: setup ## Read made clips at 24,000 times, and see that each frame is the right one
	$(BIN)/python -m tools.clips

attacks: setup ## See what other pages notice of each attack that is known
	$(BIN)/python -m tools.attacks

pages: setup ## Let twenty pages ask at once, and measure what one of them notices
	$(BIN)/python -m tools.pages

screenshots: setup ## Take the pictures in docs/screenshots
	$(BIN)/python -m tools.screenshots

gallery: setup ## Make the stills in docs/gallery from the demo titles
	$(BIN)/python -m tools.gallery

types: $(STAMPS)/types ## Make the front end's API types

steps: setup ## Write docs/steps.md with a picture of each step
	$(BIN)/python -m tools.steps_page

demo-titles: setup ## Make the demo titles anew
	$(BIN)/python -m demo.make_titles

fonts: setup ## Make the engine's fonts from the @fontsource packages
	$(BIN)/python tools/make_fonts.py

fixtures: setup ## Write what the page's tests are held to
	$(BIN)/python -m tools.front_fixtures

schema: setup ## Publish the JSON Schema of titles in docs
	$(BIN)/mabrel schema > docs/title.schema.json

lock: ## Pin the Python packages that are installed
	$(BIN)/pip freeze --exclude-editable | grep -v '^mabrel' > requirements.lock

clean: ## Remove what was built (not the database)
	rm -rf $(STAMPS) frontend/dist frontend/src/api/schema.d.ts

$(STAMPS)/system: tools/system_packages.sh
	@mkdir -p $(STAMPS)
	bash tools/system_packages.sh
	@touch $@

$(STAMPS)/python: requirements.lock pyproject.toml $(STAMPS)/system
	test -x $(BIN)/python || $(PYTHON) -m venv $(VENV)
	$(BIN)/pip install --quiet --disable-pip-version-check -r requirements.lock
	$(BIN)/pip install --quiet --disable-pip-version-check --no-deps -e .
	@touch $@

$(STAMPS)/kernels: $(STAMPS)/python $(ENGINE_FILES)
	$(BIN)/python tools/compile_kernels.py
	@touch $@

$(STAMPS)/shots: $(STAMPS)/python demo/make_shots.py
	$(BIN)/python -m demo.make_shots var/demo
	@touch $@

$(STAMPS)/node: frontend/package.json frontend/package-lock.json frontend/.npmrc
	@mkdir -p $(STAMPS)
	cd frontend && npm ci --loglevel=error
	@touch $@

$(STAMPS)/types: $(STAMPS)/node $(STAMPS)/python $(shell find studio -name '*.py' -not -path '*/__pycache__/*') $(shell find mabrel/title -name '*.py')
	$(BIN)/python manage.py write_api_schema frontend/src/api/schema.json
	cd frontend && npm run --silent types
	@touch $@

$(STAMPS)/front: $(STAMPS)/types $(FRONT_FILES)
	cd frontend && npm run --silent build -- --logLevel warn
	@touch $@

$(STAMPS)/database: $(STAMPS)/python $(shell find studio -path '*/migrations/*.py')
	$(BIN)/python manage.py migrate --verbosity 0
	@touch $@
