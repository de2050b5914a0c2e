# Everything is set up by make demo and by make test, on a machine with Go,
# Node.js, npm, make, git and apt.

PORT ?= 8640
VERSION ?= $(shell git describe --tags --always --dirty 2>/dev/null || echo dev)
WEB := $(shell git ls-files web/src web/index.html web/public web/vite.config.ts web/package.json 2>/dev/null)

# One set of flags, so that what one command has compiled the next one takes.
export GOFLAGS := $(shell go env GOFLAGS) -trimpath

export npm_config_audit = false
export npm_config_fund = false
export npm_config_update_notifier = false

.PHONY: demo build test check bench soak fuzz screenshots e2e clean

## demo: serve the demo lab at http://127.0.0.1:8640 (PORT=… picks another port)
demo:
	@$(MAKE) --no-print-directory -j3 bin/levelstaff
	exec ./bin/levelstaff demo --listen 127.0.0.1:$(PORT)

## build: leave bin/levelstaff, one binary with everything in it
build: bin/levelstaff

## test: every test there is
test:
	@$(MAKE) --no-print-directory -j3 bin/levelstaff web/src/api/schema.d.ts e2e/node_modules/.installed
	@$(MAKE) --no-print-directory chromium libreoffice readers
	@.ci/parts 'browser=cd e2e && npm test --silent' 'checks=nice $(MAKE) --no-print-directory check' \
	  'Go=nice go test -p 1 ./...' 'pages=cd web && nice npm test --silent'

## check: formatting, linters, types
check: web/src/api/schema.d.ts web/dist/index.html e2e/node_modules/.installed
	go test -count=1 .
	@test -z "$$(gofmt -l $$(git ls-files '*.go'))" || { gofmt -l $$(git ls-files '*.go'); echo "these files want gofmt"; exit 1; }
	go vet ./...
	go tool staticcheck ./...
	cd web && npm run --silent check
	cd e2e && npm run --silent check

## bench: the figures of what has to be fast
bench: bin/levelstaff chromium e2e/node_modules/.installed
	go test ./bench -run '^$$' -bench . -benchtime 1s
	cd e2e && npm run --silent bench

## soak: kill the server while it is written to, and restores (KILLS=500 RESTORES=100 WITHIN=20m)
KILLS ?= 500
RESTORES ?= 100
WITHIN ?= 20m
soak: bin/levelstaff
	SOAK_KILLS=$(KILLS) SOAK_RESTORES=$(RESTORES) SOAK_WITHIN=$(WITHIN) go test ./bench -run TestSoak -count 1 -timeout 0 -v

## fuzz: look for what breaks the readers of foreign text and the API, half a minute each
FUZZ := -fuzztime 30s -fuzzminimizetime 10x
fuzz:
	go test ./core/rundown -run '^$$' -fuzz FuzzRundown $(FUZZ)
	go test ./core/rundown -run '^$$' -fuzz FuzzFact $(FUZZ)
	go test ./core/rundown -run '^$$' -fuzz FuzzEnd $(FUZZ)
	go test ./core/rundown -run '^$$' -fuzz FuzzAddresses $(FUZZ)
	go test ./core/rundown -run '^$$' -fuzz FuzzDrives $(FUZZ)
	go test ./core/rundown -run '^$$' -fuzz FuzzGuests $(FUZZ)
	go test ./core/table -run '^$$' -fuzz FuzzFilter $(FUZZ)
	go test ./core/find -run '^$$' -fuzz FuzzSearch $(FUZZ)
	go test ./exchange -run '^$$' -fuzz FuzzCSV $(FUZZ)
	go test ./exchange -run '^$$' -fuzz FuzzVLANPlan $(FUZZ)
	go test ./exchange -run '^$$' -fuzz FuzzAddressPlan $(FUZZ)
	go test ./exchange -run '^$$' -fuzz FuzzOutletPlan $(FUZZ)
	go test ./exchange -run '^$$' -fuzz FuzzJSON $(FUZZ)
	go test ./exchange -run '^$$' -fuzz FuzzZone $(FUZZ)
	go test ./picture -run '^$$' -fuzz FuzzRead $(FUZZ)
	go test ./server -run '^$$' -fuzz FuzzRequests $(FUZZ)

## screenshots: refresh docs/screenshots from the demo lab
screenshots: bin/levelstaff chromium e2e/node_modules/.installed
	cd e2e && npm run --silent screenshots

e2e: bin/levelstaff chromium e2e/node_modules/.installed
	cd e2e && npm test --silent

clean:
	rm -rf bin web/api/openapi.json web/dist/assets web/dist/index.html web/src/api/schema.d.ts web/src/api/core.gen.ts

# The database takes longer to compile than all the rest, on one core: that is
# done beside the pages.
bin/.driver: go.mod
	@mkdir -p bin
	go build modernc.org/sqlite && touch $@

bin/levelstaff: bin/.driver web/dist/index.html $(shell git ls-files '*.go' 'demo/*.rundown' 'demo/photos/*.jpg' 'store/migrations/*' 'server/*.html' go.mod go.sum 2>/dev/null)
	go build -ldflags "-s -w -X main.version=$(VERSION)" -o $@ ./cmd/levelstaff

web/api/openapi.json web/src/api/core.gen.ts &: $(shell git ls-files 'core/*.go' 'exchange/*.go' 'store/*.go' 'server/*.go' 'cmd/openapi/*.go' go.mod 2>/dev/null)
	go run ./cmd/openapi web/api/openapi.json web/src/api/core.gen.ts

web/src/api/schema.d.ts: web/api/openapi.json web/src/api/core.gen.ts web/node_modules/.installed
	cd web && npm run --silent types && touch src/api/schema.d.ts

web/dist/index.html: web/src/api/core.gen.ts web/node_modules/.installed $(WEB)
	cd web && npm run --silent build

%/node_modules/.installed: %/package-lock.json
	cd $* && npm ci && touch node_modules/.installed

# The tests drive Debian's Chromium without a window, and open workbooks with
# Debian's LibreOffice; they are installed where they are missing.
.PHONY: chromium libreoffice
chromium:
	@command -v chromium-headless-shell >/dev/null || $(call install,--no-install-recommends chromium-headless-shell) || \
	  command -v chromium >/dev/null
libreoffice:
	@command -v soffice >/dev/null || $(call install,--no-install-recommends libreoffice-calc-nogui)

# Graphviz, poppler and a name server's zone checker read what is written for them.
.PHONY: readers
readers:
	@command -v dot >/dev/null && command -v pdftotext >/dev/null && command -v named-checkzone >/dev/null || \
	  $(call install,--no-install-recommends graphviz poppler-utils bind9-utils)

define install
{ echo "Installing Debian's $(lastword $(1)) for the tests"; run=; [ "$$(id -u)" = 0 ] || run=sudo; \
  $$run apt-get update -qq && $$run env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq $(1) >/dev/null; }
endef
