# One command for each thing. `make demo` and `make test` need only Python 3.11 or newer, make and git.
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
STAMP := $(VENV)/.set-up
OFFSCREEN := QT_QPA_PLATFORM=offscreen

.PHONY: setup demo test check bench detector first-schema demo-data screenshots words lock sbom known-faults clean

setup: $(STAMP)

$(STAMP): requirements.txt requirements-dev.txt pyproject.toml
	@$(PYTHON) -c 'import sys; sys.exit(sys.version_info < (3, 11) and "Reckoner needs Python 3.11 or newer; run make PYTHON=/path/to/python3.11")'
	test -x $(BIN)/python || $(PYTHON) -m venv $(VENV)
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements-dev.txt
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation -e .
	@touch $@

demo: setup
	@sh tools/system-libraries
	@if [ -z "$$DISPLAY$$WAYLAND_DISPLAY$$QT_QPA_PLATFORM" ]; then \
	  echo "There is no display here. On a machine without one, use a virtual one (package xvfb):"; \
	  echo "  xvfb-run -a -s '-screen 0 1280x800x24' make demo"; exit 1; fi
	$(BIN)/reckoner --demo

test: setup check
	@sh tools/system-libraries --tests
	$(OFFSCREEN) $(BIN)/python -m pytest -n 2 --dist worksteal

check: setup
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports --no-cache

bench: setup
	@sh tools/system-libraries
	$(OFFSCREEN) $(BIN)/python tools/bench.py $(ONLY)

# What the detector reaches on pulls made from formulas: PULLS a condition, from SEED.
detector: setup
	$(BIN)/python tools/bench.py detector

# Write the first revision of the tables anew from their declaration: only until the first release.
first-schema: setup
	$(BIN)/python tools/first_schema.py

# Write the demo's database anew into the package, after a change of its scenario or of the tables.
demo-data: setup
	$(BIN)/python tools/ship_demo.py

# Write what is to be translated into LANGUAGE, such as fr, or bring its catalogue up to date with the program.
LANGUAGE_FILE = src/reckoner/formats/languages/$(LANGUAGE).po
words: setup
	@test -n "$(LANGUAGE)" || { echo "Say which language: make words LANGUAGE=fr"; exit 1; }
	@mkdir -p build
	$(BIN)/pybabel --quiet extract -k tr -k mark -k tr_count:1,2 -o build/reckoner.pot src/reckoner
	test -e $(LANGUAGE_FILE) \
	  && $(BIN)/pybabel update -i build/reckoner.pot -l $(LANGUAGE) -o $(LANGUAGE_FILE) \
	  || $(BIN)/pybabel init -i build/reckoner.pot -l $(LANGUAGE) -o $(LANGUAGE_FILE)

screenshots: setup
	@sh tools/system-libraries
	$(OFFSCREEN) $(BIN)/python tools/screenshots.py

# Renew the locked versions: what the program runs on, what it is developed with beside that, and what looks through them. Needs
# the `uv` resolver on the path.
LOCK := uv pip compile --quiet --generate-hashes --no-header --no-annotate --python-version 3.11
lock:
	$(LOCK) pyproject.toml -o requirements.txt
	$(LOCK) --extra dev -c requirements.txt pyproject.toml -o requirements-dev.txt
	printf 'cyclonedx-bom\npip-audit\n' | $(LOCK) - -o requirements-supply.txt

# What the program carries, each part with its version, licence and where it came from, as CycloneDX in build/sbom.json; and whether
# any of it is known to be faulty: that asks a service, and says so where there is no network.
SUPPLY := build/supply
INSTALL := $(SUPPLY)/bin/python -m pip --disable-pip-version-check
$(SUPPLY)/.set-up: requirements.txt requirements-supply.txt
	$(PYTHON) -m venv $(SUPPLY)
	$(INSTALL) install --quiet --require-hashes -r requirements-supply.txt
	$(PYTHON) -m venv --without-pip build/carried
	$(INSTALL) --python build/carried/bin/python install --quiet --require-hashes -r requirements.txt
	@touch $@

sbom: $(SUPPLY)/.set-up
	$(SUPPLY)/bin/cyclonedx-py environment build/carried --pyproject pyproject.toml --output-reproducible -o build/sbom.json
	@$(PYTHON) tools/carried.py sbom build/sbom.json

known-faults: $(SUPPLY)/.set-up
	@rm -f build/faults.json
	-@$(SUPPLY)/bin/pip-audit --disable-pip --require-hashes -r requirements.txt -f json -o build/faults.json 2>/dev/null
	@$(PYTHON) tools/carried.py faults build/faults.json

clean:
	rm -rf $(VENV) build src/*.egg-info
