#!/usr/bin/env bash
# The public page stays under 140 KB of script, gzipped, before the first choice.
set -euo pipefail
cd "$(dirname "$0")/../src/web/dist"
total=0
for file in $(grep -oE 'assets/[^"]+\.js' book.html | sort -u); do total=$((total + $(gzip -9c "$file" | wc -c))); done
echo "public page: $total bytes of script, gzipped"
[ "$total" -gt 0 ] && [ "$total" -lt $((140 * 1024)) ]
