#!/usr/bin/env bash
# How many small changes to the rooms of the core the tests notice: mutmut 3.3.1, in a copy beside the house. Takes some minutes,
# of match more than an hour: there a sample drawn by chance, always the same, tells it within a few percent.
#   [SAMPLE=400] bench/mutants.sh [ROOM...]      rooms of zembric/core, if none is named: electric judge
set -euo pipefail

ROOT=$(cd "$(dirname "$0")/.." && pwd)
ROOMS=("$@")
[ ${#ROOMS[@]} -gt 0 ] || ROOMS=(electric judge)
COPY=$(mktemp -d)
git -C "$ROOT" archive HEAD | tar -x -C "$COPY"
python3 -m venv "$COPY/venv"
"$COPY/venv/bin/pip" install -q mutmut==3.3.1
# Our own packages, and one name that pytest has changed since.
echo "$("$ROOT/.venv/bin/python" -c 'import site; print(site.getsitepackages()[0])')" >"$COPY/venv/lib/$(ls "$COPY/venv/lib")/site-packages/ours.pth"
sed -i 's/item\._nodeid/item.nodeid/' "$COPY"/venv/lib/python3*/site-packages/mutmut/__main__.py
cd "$COPY"
{
    echo '[mutmut]'
    echo 'paths_to_mutate='
    printf '    src/zembric/core/%s/\n' "${ROOMS[@]}"
    echo 'tests_dir=tests/core'
    echo 'also_copy='
    printf '    %s\n' words migrations docs
    find src/zembric -mindepth 1 -maxdepth 1 ! -name core | sed 's/^/    /'
    find src/zembric/core -mindepth 1 -maxdepth 1 | grep -vE "/($(IFS='|'; echo "${ROOMS[*]}"))\$" | sed 's/^/    /'
} >setup.cfg
# Tests that read the sources would read the changed ones.
sed -i 's/^addopts = "/addopts = "--ignore=tests\/core\/house\/test_limits.py --deselect=tests\/core\/judge\/test_trust.py::test_no_sound_cell_is_ever_out_or_held_back /' pyproject.toml
mkdir -p mutants/src
export PYTHONPATH="$COPY/mutants/src"
DRAWN=()
if [ -n "${SAMPLE:-}" ]; then
    venv/bin/mutmut run none-yet >made.log 2>&1 || true # makes them all
    mapfile -t DRAWN < <(venv/bin/python - "$SAMPLE" <<'PYTHON'
import json, pathlib, random, sys

names = sorted(name for file in pathlib.Path("mutants").rglob("*.meta") for name in json.loads(file.read_text())["exit_code_by_key"])
print(*random.Random(1).sample(names, min(int(sys.argv[1]), len(names))), sep="\n")
PYTHON
    )
    rm mutants/mutmut-stats.json
fi
venv/bin/mutmut run --max-children "${CHILDREN:-$(nproc)}" "${DRAWN[@]}" | tr '\r' '\n' | tail -2
venv/bin/mutmut results --all true | grep -v 'not checked' | sed 's/.*: //' | sort | uniq -c
venv/bin/mutmut results | grep -E 'survived|no tests' | sed 's/__mutmut.*//; s/^ *//' | sort | uniq -c | sort -rn
echo "The copy is $COPY; there: venv/bin/mutmut show NAME"
