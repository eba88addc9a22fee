#!/usr/bin/env bash
# hunt.sh [--books] [TIMES]: the property tests over new random terms each time, or new random histories of the books,
# until one fails; names the seed to repeat it.
# hunt.sh --faults [TIMES] [SEED]: kills server, database and commands at random moments of their work, fills the disk, cuts
# connections, has two servers do the same; after each everything is held against itself. It goes on from a seed.
# hunt.sh --mutants [FOLDER]: changes the core below a folder of core/src a little at a time, and names the changes that
# no test catches; what was looked at before and has not changed since is not looked at again.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
. "$root/scripts/machine.sh"
. "$root/scripts/cluster.sh"
ensure_packages
cd "$root"

if [ "${1:-}" = --mutants ]; then
  folder=${2:-}
  [ -d "core/src/$folder" ] || die "There is no folder core/src/$folder."
  COFFER_MUTANTS=${folder%/} COFFER_RUNS=12 exec node_modules/.bin/stryker run
fi

if [ "${1:-}" = --faults ]; then
  times=${2:-100}
  seed=${3:-$((RANDOM * 32768 + RANDOM))}
  [[ $times =~ ^[1-9][0-9]*$ && $seed =~ ^[0-9]+$ ]] || die "Say how many moments, and perhaps from which seed: --faults 100 12345."
  node scripts/build.mjs server
  COFFER_FAULTS=$times COFFER_SEED=$seed node_modules/.bin/vitest run --project server --silent=false server/src/faults.test.ts ||
    die "Something was found. The life that it was found in has its seed above: --faults 25 SEED lives it once more."
  say "Nothing was found in $times moments. Go on with --faults $times $((seed + (times + 24) / 25))."
  exit
fi

what=terms
if [ "${1:-}" = --books ]; then
  what=books
  shift
fi
times=${1:-10}
[[ $times =~ ^[1-9][0-9]*$ ]] || die "How many times to hunt is a whole number from 1; found $times."

finish() {
  stop_cluster "$COFFER_HOME"
  rm -rf "$COFFER_HOME"
}

if [ "$what" = books ]; then
  project=server
  files=(server/src/periods/histories.test.ts)
  COFFER_HOME=$(mktemp -d /tmp/coffer-hunt.XXXXXX)
  chmod 755 "$COFFER_HOME"
  export COFFER_HOME COFFER_THROWAWAY=yes
  trap finish EXIT
  node scripts/build.mjs server
  start_cluster "$COFFER_HOME"
  COFFER_TEST_DATABASE=$(database_url "$COFFER_HOME")
  COFFER_TEST_OWNER=$(owner_url "$COFFER_HOME")
  export COFFER_TEST_DATABASE COFFER_TEST_OWNER
else
  project=unit
  mapfile -t files < <(grep -rlE "fc\.assert|arbitrary" --include='*.test.ts' core contract cli web)
fi

for ((turn = 1; turn <= times; turn++)); do
  seed=$((RANDOM * 32768 + RANDOM))
  say "Hunt $turn of $times, seed $seed"
  COFFER_SEED=$seed node_modules/.bin/vitest run --project "$project" --reporter=dot "${files[@]}" ||
    die "Something was found. Repeat it with COFFER_SEED=$seed."
done
say "Nothing was found in $times hunts."
