# Two commands do all: `make demo` starts Squall with demo data, `make test` passes every test.
PORT ?= 8017
DEMO ?=
PY := .venv/bin/python
STAMP := .venv/.squall-run
# As the application has it (src/squall/__init__.py): the tests bring numpy before it.
export OPENBLAS_NUM_THREADS := 1
DEVSTAMP := .venv/.squall-dev

.PHONY: demo test quick bench attack shots words shape setup lint clean

$(STAMP): requirements.lock pyproject.toml
	test -x $(PY) || python3 -m venv .venv
	test -x .venv/bin/uv || $(PY) -m pip install --quiet --disable-pip-version-check uv
	.venv/bin/uv pip install --quiet --python $(PY) --no-deps --require-hashes --compile-bytecode -r requirements.lock
	.venv/bin/uv pip install --quiet --python $(PY) --no-deps --no-build-isolation -e .
	touch $@

$(DEVSTAMP): $(STAMP) requirements-dev.lock
	.venv/bin/uv pip install --quiet --python $(PY) --no-deps --require-hashes --compile-bytecode -r requirements-dev.lock
	touch $@

setup: $(STAMP)

demo: $(STAMP)
	$(PY) -m compileall -q src/squall
	.venv/bin/squall demo $(DEMO) --port $(PORT)

lint: $(DEVSTAMP)
	.venv/bin/ruff check src tests tools
	.venv/bin/ruff format --check src tests tools
	.venv/bin/mypy
	.venv/bin/mypy tools
	.venv/bin/lint-imports
	.venv/bin/djlint src/squall/web/templates --profile=jinja --lint --quiet

test: $(DEVSTAMP)
	test -x /usr/bin/chromium -a -x /usr/bin/ngspice || (apt-get update -qq && apt-get install -y -qq chromium ngspice)
	$(MAKE) --no-print-directory lint
	$(PY) -c "from squall.web.frame.warming import warm_up; warm_up()"  # compiled once, not by every worker
	.venv/bin/pytest -n 3 --dist worksteal

# What the hand runs between two edits: rules and pages, without the browser, the crawls and the comparisons with others.
quick: $(DEVSTAMP)
	.venv/bin/ruff check src tests tools
	.venv/bin/pytest -n 3 --dist worksteal tests/core tests/job tests/store tests/sums tests/formats tests/catalogue tests/shape

# Every sentence into the template that translators begin with.
words: $(DEVSTAMP)
	$(PY) tools/words.py

# The structure in figures.
shape: $(DEVSTAMP)
	$(PY) tools/shape.py

bench: $(DEVSTAMP)
	$(PY) -m compileall -q src/squall
	$(PY) tools/bench.py

# Killed, fuzzed, loaded and fed hostile files, some ten minutes: what held is printed (docs/security.md).
attack: $(DEVSTAMP)
	SQUALL_CALLS=100 .venv/bin/pytest -n 2 -q tests/web/test_openapi.py
	$(PY) tools/attack.py

shots: $(DEVSTAMP)
	$(PY) tools/shots.py

clean:
	rm -rf .venv .pytest_cache .mypy_cache .ruff_cache .hypothesis
