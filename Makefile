# Everything a fresh machine needs after a clone: Rust, Node 20, npm, apt, the package registries.
SHELL := /bin/bash
.SHELLFLAGS := -eu -o pipefail -c
.PHONY: build web demo quick test lint rust-lint web-lint rust-build rust-test web-test browser-test bench bench-survey chromium clean openapi

export PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD := 1
TARGET := $(if $(CARGO_TARGET_DIR),$(CARGO_TARGET_DIR),target)
# Cargo counts the processors itself; what make would lend it is not handed on.
CARGO := env -u MAKEFLAGS -u MFLAGS cargo
NPM_CI := npm ci --no-audit --no-fund --loglevel=error

# The complete release binary, web application embedded.
build: web
	$(CARGO) build --release --locked -p jigfit-server
	@echo "built $(TARGET)/release/jigfit"

web/node_modules/.package-lock.json: web/package-lock.json
	cd web && $(NPM_CI)

e2e/node_modules/.package-lock.json: e2e/package-lock.json
	cd e2e && $(NPM_CI)

# Built again only when something of it changed.
web: web/dist/index.html

web/dist/index.html: web/node_modules/.package-lock.json $(shell find web/src web/public web/index.html web/*.json web/*.ts -type f 2>/dev/null)
	cd web && npm run --silent build

# Loads the demo into its own folder and serves it; opens nothing by itself. The quick build, on the page within four
# minutes of a clone on two cores; `make build` makes one whose plans take a tenth of the time.
demo: quick
	$(TARGET)/debug/jigfit demo --data demo-data

# Both at the same time: the quick build reads the web application when it is asked for a page, not when it is built.
quick:
	mkdir -p web/dist
	$(CARGO) build --locked -p jigfit-server & rust=$$!; \
	$(MAKE) --no-print-directory web || { kill $$rust; exit 1; }; \
	wait $$rust

# What does not wait for each other first, side by side. Then the tests themselves, which take the whole machine.
test:
	$(MAKE) --no-print-directory -j3 lint rust-build
	$(MAKE) --no-print-directory web-test rust-test browser-test

lint: rust-lint web-lint

# In a folder of its own, or it and the build would wait for each other's lock.
rust-lint:
	$(CARGO) fmt --all --check
	mkdir -p web/dist
	CARGO_TARGET_DIR=$(TARGET)/lint $(CARGO) clippy --workspace --all-targets --locked -- -D warnings

web-lint: web
	cd web && npm run --silent check && npm run --silent lint && npm run --silent types:fresh

# The program and all tests, nothing run yet. Examples and benches are built by the linter, as far as it goes.
TESTS := test --workspace --locked --tests
rust-build:
	mkdir -p web/dist
	$(CARGO) $(TESTS) --no-run --quiet

rust-test: web
	$(CARGO) $(TESTS)

web-test: web
	cd web && npm run --silent test

# Debian's Chromium, when it is missing.
chromium:
	@command -v chromium >/dev/null || { \
	  sudo=$$([ "$$(id -u)" = 0 ] || echo sudo); \
	  $$sudo apt-get update -q && $$sudo apt-get install -y -q chromium; }

# On the program that the Rust tests built: nothing is built twice.
browser-test: web chromium e2e/node_modules/.package-lock.json
	$(CARGO) $(TESTS) --no-run --quiet
	cd e2e && JIGFIT_BIN="$(abspath $(TARGET))/debug/jigfit" npm test --silent

# Prints the numbers as a table.
bench: build chromium e2e/node_modules/.package-lock.json
	$(CARGO) bench --locked -p jigfit-core --bench plan -- --noplot
	$(CARGO) bench --locked -p jigfit-core --bench percentiles
	$(CARGO) bench --locked -p jigfit-photo --bench photo -- --noplot
	$(CARGO) bench --locked -p jigfit-formats --bench templates -- --noplot
	cd e2e && JIGFIT_BIN="$(abspath $(TARGET))/release/jigfit" node bench.mjs

# After a change of the API: the document that is checked in, and the web's types from it.
openapi: web
	$(CARGO) run --quiet --locked -p jigfit-server -- openapi > web/openapi.json
	cd web && npm run --silent types

clean:
	rm -rf target web/dist web/node_modules e2e/node_modules demo-data

# How well surveys of the virtual vehicles do, SURVEYS of each.
SURVEYS := 100
bench-survey:
	$(CARGO) run --release --locked -q -p jigfit-instruments --example survey_table -- $(SURVEYS)
