# make demo and make test set up what is missing by themselves; both can be run
# again and beside each other.

.PHONY: install dist demo test build lint fmt bench fuzz accuracy generate setup console

demo: build
	./bin/unicausa demo

test: console
	./scripts/setup chromium
	go test -timeout 30m ./...

build: console
	go build -o bin/unicausa ./cmd/unicausa

# Puts the program, its manual page and the completions of bash, zsh and fish in place.
PREFIX ?= /usr/local
install: build
	./scripts/install "$(DESTDIR)" "$(PREFIX)"

# A tarball and a Debian package of what is committed, the same bytes whoever builds them.
dist: console
	./scripts/dist

# Everything that tells bad style, unsound types and stale generated code.
lint: console
	./scripts/lint

fmt: console/node_modules/.installed
	gofmt -w $$(git ls-files '*.go' ':!*/testdata/*')
	cd console && npm run --silent format

# The core's benchmarks, then the figures of docs/performance.md beside their
# yardsticks; that takes some minutes and 6 GB below the temporary folder.
bench: build
	./scripts/setup bench
	go test -run '^$$' -bench . -benchmem ./internal/core/...
	go run ./bench

# Runs every fuzz target for FUZZTIME, then 2,000 mutated inputs through triage. A find
# lands in the package's testdata/fuzz, where every later test runs it.
FUZZTIME ?= 60s
fuzz:
	./scripts/fuzz $(FUZZTIME)

# Scores triage on the labelled cases, recording those that are not there yet
# with the real tools, and writes docs/accuracy.md. CASES names folders of more.
accuracy:
	go run ./internal/accuracy/measure $(CASES)

generate: console/node_modules/.installed
	go generate ./...
	cd console && npm run --silent generate

setup:
	./scripts/setup chromium

console: console/dist/index.html

console/dist/index.html: console/node_modules/.installed $(shell find console/src console/index.html console/vite.config.ts -type f 2>/dev/null)
	cd console && flock node_modules/.installed npm run --silent build

console/node_modules/.installed: console/package.json console/package-lock.json
	./scripts/setup
	cd console && flock package.json npm install --no-save --no-audit --no-fund --silent
	touch $@
