#!/usr/bin/env bash
# A backup of the installation that is tested, taken while it runs, and what is made of it: equal, or nothing at all.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
. "$root/scripts/machine.sh"
. "$root/scripts/cluster.sh"

from=$COFFER_HOME
to=$from/restored
broken=$from/restored-from-half
file=$from/whole.backup
finish() {
  stop_cluster "$to"
  stop_cluster "$broken"
  rm -rf "$to" "$broken" "$file" "$file.half"
}
trap finish EXIT

# All that is kept, in order of its lines; who is logged in is no part of the books, nor is the lock of a start.
kept() {
  PGPASSWORD=$(secret "$1" owner-password) "$(postgres_bin)/pg_dump" --data-only --no-owner -T session -T migration_lock \
    -h 127.0.0.1 -p "$(cat "$1/database-port")" -U coffer_owner coffer 2>/dev/null | grep -v '^--\|^SELECT pg_catalog.setval\|^.\(un\)\?restrict ' | sort
}
expect_refused() {
  local why=$1
  shift
  if "$@" 2>"$from/said"; then die "Not refused: $*"; fi
  grep -q "$why" "$from/said" || die "Refused without \"$why\": $(cat "$from/said")"
}

"$root/coffer" backup "$file"
[ "$(stat -c %a "$file")" = 600 ] || die 'Others may read the backup.'
expect_refused 'there already' "$root/coffer" backup "$file"

COFFER_HOME=$to "$root/coffer" restore "$file"
cmp <(kept "$from") <(kept "$to") || die 'What was restored is not what was taken out.'
cmp "$from/secrets/session-secret" "$to/secrets/session-secret"

before=$(kept "$to" | sha256sum)
expect_refused 'holds companies already' env COFFER_HOME="$to" "$root/coffer" restore "$file"
[ "$(kept "$to" | sha256sum)" = "$before" ] || die 'A restore that was refused has changed something.'

head -c "$(($(stat -c %s "$file") / 2))" "$file" >"$file.half"
expect_refused 'no backup of Coffer, or not whole\|line with its checksum is gone' env COFFER_HOME="$broken" "$root/coffer" restore "$file.half"
[ ! -d "$broken/postgres" ] ||
  [ -z "$(keeper_sql "$broken" -d coffer -At -c "select to_regclass('public.company')")" ] || die 'Half a backup left something.'

# What another version wrote, whole as it is, is told by its form.
mkdir "$from/later"
tar -C "$from/later" -xf "$file"
echo coffer.backup/3 >"$from/later/backup/format"
(cd "$from/later/backup" && cut -c67- sums | xargs sha256sum >sums.new && mv sums.new sums)
tar -C "$from/later" -cf "$file.half" backup
printf '%s  coffer.backup\n' "$(sha256sum <"$file.half" | cut -d' ' -f1)" >>"$file.half"
expect_refused 'is a backup of another form, coffer.backup/3' env COFFER_HOME="$broken" "$root/coffer" restore "$file.half"

# Any bit of it, wherever it stands: nothing is begun for a backup that is not as it was written.
flips=${COFFER_FLIPS:-350}
cp "$file" "$file.half"
size=$(stat -c %s "$file")
node -e 'for (let at = 0; at < Number(process.argv[1]); at += 1) console.log(Math.floor(Math.random() * Number(process.argv[2])), 1 << Math.floor(Math.random() * 8))' \
  "$flips" "$size" >"$from/flips"
# The ends are always among them: the first header, and the line that the whole is told by.
printf '%s\n' '0 1' "$((size - 1)) 1" "$((size - 80)) 1" "$((size - 81)) 1" >>"$from/flips"
while read -r at bit; do
  flip() {
    local byte
    byte=$(od -An -tu1 -j "$at" -N 1 "$file.half")
    # shellcheck disable=SC2059
    printf "\\x$(printf %02x $((byte ^ bit)))" | dd of="$file.half" bs=1 seek="$at" conv=notrunc status=none
  }
  flip
  if (. "$root/scripts/backup.sh"; into=$(mktemp -d "$from/unpacked.XXXX"); trap 'rm -rf "$into"' EXIT; unpack_backup "$file.half" "$into") 2>"$from/said"; then
    die "A backup was taken in whose byte $at was changed by $bit."
  fi
  flip
done <"$from/flips"
cmp "$file" "$file.half"
[ ! -d "$broken/postgres" ] || die 'A broken backup began something.'

rm -f "$from/flips"
say 'A backup is equal to what it was taken of, or refused whole.'
