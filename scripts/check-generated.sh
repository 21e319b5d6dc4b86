#!/bin/sh
# Generates everything again beside what is committed and compares.
set -e
out=$(mktemp -d)
trap 'rm -rf "$out"' EXIT
sed "s#^output: .*#output: $out/api.gen.go#" api/oapi-codegen.yaml > "$out/config.yaml"
go tool oapi-codegen -config "$out/config.yaml" api/openapi.yaml
go run ./internal/gen/units > "$out/units.gen.json"
mkdir "$out/sheets" && go run ./internal/gen/sheets "$out/sheets"
diff -rq "$out/sheets" core/practice/sheets/read >/dev/null || { echo "core/practice/sheets/read is out of date: run make generate" >&2; exit 1; }
(cd web && npx openapi-typescript ../api/openapi.yaml -o "$out/schema.d.ts" >/dev/null 2>&1)
for pair in "api.gen.go internal/api/api.gen.go" "units.gen.json web/src/units.gen.json" "schema.d.ts web/src/api/schema.d.ts"; do
    set -- $pair
    cmp -s "$out/$1" "$2" || { echo "$2 is out of date: run make generate" >&2; exit 1; }
done
