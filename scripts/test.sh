#!/bin/sh
# Every check of the project, in the order in which a fault is cheapest to find.
set -eu
python=${PYTHON:-.venv/bin/python}
bin=$(dirname "$python")

say() { printf '\n== %s\n' "$1"; }

say "lint and format"
# a cache knows nothing of a package that came in beside a file
"$bin/ruff" check --no-cache .
"$bin/ruff" format --no-cache --check .

scratch=$(mktemp -d)
trap 'rm -rf "$scratch"' EXIT

say "types"
EYEBOLT_DATA="$scratch" "$bin/mypy"

say "templates, styles and scripts"
"$bin/djlint" --profile=django --lint --quiet .
"$python" -m scripts.tidy_static --check

say "production settings"
EYEBOLT_DATA="$scratch" EYEBOLT_HTTPS=1 "$python" manage.py check --deploy --fail-level WARNING
EYEBOLT_DATA="$scratch" "$python" manage.py makemigrations --check --dry-run

export EYEBOLT_DATA="$scratch" DJANGO_SETTINGS_MODULE=eyebolt.settings_test
say "tests"
"$python" -W error::RuntimeWarning manage.py test --exclude-tag browser --parallel 2

say "tests in a browser"
"$python" -W error::RuntimeWarning manage.py test --tag browser --parallel 2
