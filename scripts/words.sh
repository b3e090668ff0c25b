#!/usr/bin/env bash
# Gathers everything that is said to people, by the server and by the screens, into src/web/words/en.po for those who translate.
set -euo pipefail
cd "$(dirname "$0")/.."
KINGCUP_GATHER_WORDS=1 dotnet run --project tests/Kingcup.Core.Tests -c Release -- -class "*WordsTests" >/dev/null
cd src/web
# What is new lies on top after the first time, and in its place after the second.
npm run --silent words
npm run --silent words
