# make demo    install, migrate, load the demo yard, serve it
# make serve   serve real yards behind a proxy: docs/running.md
# make gauge   a stand-in for a gauge in the hitch, sending to the demo while it runs
# make test    install what the tests need, check everything, run every test
# make bench   print the figures
# make crash   kill it a thousand times in the middle of its work
# make fair    try a thousand numbers of every kind of practice case
# make walk    time the way from an empty yard to a first verdict
# make pins    pin the packages anew, with their hashes
# make tidy    write styles and scripts one declaration a line

PYTHON ?= python3.11
PORT ?= 8000
VENV := .venv
BIN := $(VENV)/bin
DEMO_ENV := EYEBOLT_HTTPS=0

.PHONY: demo serve gauge test bench crash fair walk install install-test vendor screenshots pins tidy

demo: $(VENV)/.run
	@$(DEMO_ENV) PORT=$(PORT) $(BIN)/python -m scripts.demo

serve: $(VENV)/.run
	@PORT=$(PORT) $(BIN)/python -m scripts.serve

gauge: $(VENV)/.run
	@$(DEMO_ENV) $(BIN)/python manage.py simulate_gauge $(GAUGE)

test: $(VENV)/.test
	@PYTHON=$(BIN)/python sh scripts/test.sh

bench: $(VENV)/.test
	@$(DEMO_ENV) $(BIN)/python -m bench

crash: $(VENV)/.test
	@$(BIN)/python -m scripts.crash 1000

fair: $(VENV)/.test
	@$(BIN)/python -m scripts.fair_cases 1000

walk: $(VENV)/.test
	@$(BIN)/python -m scripts.first_verdict

install: $(VENV)/.run
install-test: $(VENV)/.test

vendor: $(VENV)/.run
	$(BIN)/python scripts/vendor.py

screenshots: $(VENV)/.test
	@$(BIN)/python -m scripts.screenshots

$(VENV)/bin/python:
	@PYTHON=$(PYTHON) sh scripts/venv.sh $(VENV)

$(VENV)/.run: requirements/run.txt $(VENV)/bin/python
	@$(BIN)/python -m pip install --quiet --disable-pip-version-check -r requirements/run.txt
	@touch $@

$(VENV)/.test: requirements/test.txt $(VENV)/.run
	@$(BIN)/python -m pip install --quiet --disable-pip-version-check -r requirements/test.txt
	@sh scripts/chromium.sh
	@touch $@

PIN := pip-compile --quiet --upgrade --generate-hashes --strip-extras --no-header --no-annotate \
	--no-emit-index-url --no-emit-trusted-host --no-emit-find-links --allow-unsafe

pins: $(VENV)/bin/python
	@$(BIN)/python -m venv $(VENV)/pins
	@$(VENV)/pins/bin/python -m pip install --quiet --disable-pip-version-check pip-tools
	@$(VENV)/pins/bin/$(PIN) -o requirements/run.txt requirements/run.in
	@$(VENV)/pins/bin/$(PIN) -o requirements/test.txt requirements/test.in

tidy: $(VENV)/.test
	@$(BIN)/python -m scripts.tidy_static
