# make demo and make test set up what is missing by themselves; both can be run
# again and beside each other.

.PHONY: help install dist demo test cover mutate build lint fmt bench fuzz accuracy generate setup console

demo: build ## sets up what is missing and starts everything with demo data
	./bin/unicausa demo

test: console ## sets up what is missing and runs every test
	./scripts/setup chromium
	go test -timeout 30m -parallel 4 ./...

help: ## lists these targets
	@sed -n 's/^\([a-z]*\):[^#]*## \(.*\)/\1\t\2/p' Makefile | sort | column -t -s "$$(printf '\t')"

# The share of each package that its own tests and those of the whole reach, and below it
# the functions that none reaches.
cover: console ## prints what no test reaches, by package
	./scripts/setup chromium
	./scripts/cover

# A change to a decision of the core that no test notices stands in code that no test holds.
N ?= 300
mutate: ## changes N decisions of the core, one at a time, and prints those that no test notices
	go run ./internal/mutate -n $(N)

build: console ## builds the console and bin/unicausa
	go build -o bin/unicausa ./cmd/unicausa

# Puts the program, its manual page and the completions of bash, zsh and fish in place.
PREFIX ?= /usr/local
install: build ## puts the program, its manual page and completions below PREFIX
	./scripts/install "$(DESTDIR)" "$(PREFIX)"

# A tarball and a Debian package of what is committed, the same bytes whoever builds them.
dist: console ## makes a tarball and a Debian package of what is committed
	./scripts/dist

# Everything that tells bad style, unsound types and stale generated code.
lint: console ## runs the linters and checks that generated code is current
	./scripts/lint

fmt: console/node_modules/.installed ## writes the formatting
	gofmt -w $$(git ls-files '*.go' ':!*/testdata/*')
	cd console && npm run --silent format

# The core's benchmarks, then the figures of docs/performance.md beside their
# yardsticks; that takes some minutes and 6 GB below the temporary folder.
bench: build ## runs the benchmarks and measures docs/performance.md
	./scripts/setup bench
	go test -run '^$$' -bench . -benchmem ./internal/core/...
	go run ./bench

# Runs every fuzz target for FUZZTIME, then 2,000 mutated inputs through triage. A find
# lands in the package's testdata/fuzz, where every later test runs it.
FUZZTIME ?= 60s
fuzz: ## runs every fuzz target for FUZZTIME, then 2,000 mutated inputs
	./scripts/fuzz $(FUZZTIME)

# Scores triage on the labelled cases, recording those that are not there yet
# with the real tools, and writes docs/accuracy.md. CASES names folders of more.
accuracy: ## scores the labelled cases and writes docs/accuracy.md
	go run ./internal/accuracy/measure $(CASES)

generate: console/node_modules/.installed ## makes server, client and types from internal/api/openapi.yaml
	go generate ./...
	cd console && npm run --silent generate

setup: ## installs PostgreSQL and Chromium
	./scripts/setup chromium

console: console/dist/index.html ## builds the console

console/dist/index.html: console/node_modules/.installed $(shell find console/src console/index.html console/vite.config.ts -type f 2>/dev/null)
	cd console && flock node_modules/.installed npm run --silent build

console/node_modules/.installed: console/package.json console/package-lock.json
	./scripts/setup
	cd console && flock package.json npm install --no-save --no-audit --no-fund --silent
	touch $@
