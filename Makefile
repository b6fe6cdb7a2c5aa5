# Two commands for a fresh machine: `make demo` and `make test`. Both make their own environment first.
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
TOOLS := tests/support/javascript
# Tests wait now and then, for windows and for what they stop: one more at work than there are processors.
WORKERS := $(shell expr `getconf _NPROCESSORS_ONLN` + 1)

# What `make oracle` compares: so many random programs of each sort, from this seed on.
PROGRAMS ?= 50
FIRST ?= 0

.PHONY: demo test lint types layers docs net oracle bench field clean

demo: $(VENV)/.installed
	rm -rf build/demo
	$(BIN)/aedifex demo ferry --into build/demo
	@echo "The files are in build/demo: cable_ferry.py before, built/ after."

# What is compiled is kept: each of the many commands would compile all of it anew.
test: $(VENV)/.developed
	env -u PYTHONDONTWRITEBYTECODE $(BIN)/pytest -q -n $(WORKERS) --dist worksteal

lint: $(VENV)/.developed
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .

types: $(VENV)/.developed
	$(BIN)/mypy

layers: $(VENV)/.developed
	$(BIN)/lint-imports

docs: $(VENV)/.developed
	$(BIN)/python -c "from aedifex.moves.registry import descriptions; from aedifex.report.moves_page import moves_page; print(moves_page(descriptions()), end='')" > docs/moves.md

net: $(VENV)/.developed
	$(BIN)/python -m tests.support.net

oracle: $(VENV)/.developed
	$(BIN)/python -m tests.support.everything --programs $(PROGRAMS) --first $(FIRST)

bench: $(VENV)/.developed
	$(BIN)/pip install -q -e '.[dev,bench]'
	$(BIN)/python -m bench.model
	$(BIN)/python -m bench.recorders
	$(BIN)/python -m bench.build
	$(BIN)/python -m bench.recovery
	$(BIN)/python -m bench.kinds
	$(BIN)/python -m bench.class_tests
	$(BIN)/python -m bench.javascript

field: $(VENV)/.developed
	$(BIN)/python -m bench.field --table docs/field.md

clean:
	rm -rf $(VENV) $(TOOLS)/node_modules build .pytest_cache .mypy_cache .ruff_cache .hypothesis

$(VENV)/bin/python:
	$(PYTHON) -m venv $(VENV)

$(VENV)/.installed: $(VENV)/bin/python pyproject.toml
	test -e $(VENV)/.developed || $(BIN)/pip install -q .
	touch $@

$(VENV)/.developed: $(VENV)/bin/python pyproject.toml $(TOOLS)/package-lock.json
	$(BIN)/pip install -q -e '.[dev]'
	if command -v npm > /dev/null; then cd $(TOOLS) && npm ci --silent; fi
	touch $@
