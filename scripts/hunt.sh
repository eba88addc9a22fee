#!/usr/bin/env bash
# hunt.sh [TIMES]: the property tests over new random terms each time, until one fails; names the seed to repeat it.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
. "$root/scripts/machine.sh"
ensure_packages

times=${1:-10}
[[ $times =~ ^[1-9][0-9]*$ ]] || die "How many times to hunt is a whole number from 1; found $times."
cd "$root"
mapfile -t files < <(grep -rlE "fc\.assert|arbitrary" --include='*.test.ts' core contract cli web)
for ((turn = 1; turn <= times; turn++)); do
  seed=$((RANDOM * 32768 + RANDOM))
  say "Hunt $turn of $times, seed $seed"
  COFFER_SEED=$seed node_modules/.bin/vitest run --project unit --reporter=dot "${files[@]}" ||
    die "Something was found. Repeat it by: COFFER_SEED=$seed npx vitest run --project unit"
done
say "Nothing was found in $times hunts."
