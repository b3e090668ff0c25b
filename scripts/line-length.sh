#!/usr/bin/env bash
# No line of code is longer than 140 characters.
. "$(dirname "$0")/lib.sh"
cd "$ROOT"
long=$(git ls-files '*.cs' '*.ts' '*.tsx' '*.mjs' '*.sql' | grep -vE '^src/web/src/api/generated/|^src/Kingcup.Storage/Migrations/000[1-5]' \
  | xargs grep -nE '^.{141,}' || true)
[ -z "$long" ] || { printf '%s\n' "$long" | cut -c1-160; exit 1; }
