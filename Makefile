# Slow Root. Needs Go, Node and npm; make test also needs Chromium and installs Debian's if it may.
GO      ?= go
TOOL    := $(GO) tool -modfile=scripts/tools.mod
BUILD   := $(shell git rev-parse --short HEAD 2>/dev/null || echo source)
SOURCES := $(shell git ls-files -co --exclude-standard 'web/src' 'web/public' 'web/index.html' 'web/*.ts' 'web/*.json' 2>/dev/null)

.PHONY: demo build test lint generate check-generated bench screenshots chromium compiler mutants clean

demo: build ## run the program with the demonstration estate
	./bin/slowroot demo --data demo-data

build: web/dist/index.html
	CGO_ENABLED=0 $(GO) build -trimpath -ldflags "-s -w -X main.build=$(BUILD)" -o bin/slowroot ./cmd/slowroot

web/node_modules/.package-lock.json: web/package-lock.json
	cd web && npm install --no-save --no-audit --no-fund
	@touch $@

web/dist/index.html: web/node_modules/.package-lock.json $(SOURCES)
	cd web && npx vite build

generate: web/node_modules/.package-lock.json ## write what is generated from the contract, the units table and the practice sheets
	$(GO) tool oapi-codegen -config api/oapi-codegen.yaml api/openapi.yaml
	$(GO) run ./internal/gen/units > web/src/units.gen.json
	$(GO) run ./internal/gen/sheets core/practice/sheets/read
	cd web && npx openapi-typescript ../api/openapi.yaml -o src/api/schema.d.ts

check-generated: web/node_modules/.package-lock.json ## fail when generated code is out of date
	@sh scripts/check-generated.sh

lint: build
	$(GO) vet ./...
	@test -z "$$(gofmt -l cmd core internal e2e demo web/*.go)" || { echo "gofmt these:"; gofmt -l cmd core internal e2e demo web/*.go; exit 1; }
	$(TOOL) staticcheck -checks 'SA*,S1*,U1*' ./...
	@dead="$$($(TOOL) deadcode ./cmd/... ./internal/gen/...)" || exit 1; test -z "$$dead" || { echo "$$dead"; exit 1; }
	cd web && npx tsc --noEmit -p tsconfig.json && npx eslint --max-warnings 0 src && npx prettier --check src

# -count=1: the browser tests run the built program, whose pages Go's test cache knows nothing of.
# Tests named …AtOnce let many work on one store and one server: they run once more under the race detector.
test: lint check-generated chromium compiler ## everything
	$(GO) test ./core/... ./cmd/... ./demo/... ./internal/... ./e2e/... -count=1 -timeout 14m
	CGO_ENABLED=1 $(GO) test -race ./internal/store ./internal/server -run AtOnce -count=1 -timeout 8m

compiler: ## install Debian's C compiler where none is found
	@sh scripts/compiler.sh

# Changes the program of one package and says which changes its tests do not notice: make mutants PKG=core/geo
mutants:
	$(GO) run github.com/go-gremlins/gremlins/cmd/gremlins@v0.5.1 unleash --conditionals-boundary=false --timeout-coefficient 20 ./$(PKG)

chromium: ## install Debian's Chromium where none is found
	@sh scripts/chromium.sh

bench: build ## the speed budgets
	$(GO) run ./e2e/budget

screenshots: build chromium ## take the pictures of docs/screenshots again
	$(GO) run ./e2e/screenshots

clean:
	rm -rf bin web/node_modules demo-data && find web/dist -mindepth 1 ! -name .gitkeep -delete
