# How ./test runs its parts: what each needs, one after the other or beside each other, and what is said at the end.
# Sourced by it after scripts/common.sh. A part is a function of its name, its needs are a function `needs_NAME`.

SUMMARY=()    # a line for each part that was run
NOT_RUN=()    # parts that have not ended
FAILED=0
declare -A BESIDE=()  # part: process that runs it in the background
BESIDE_FOLDER=

# The end of all: nothing that was started goes on, and what did not run is said.
end_parts() {
  local code=$? part
  trap '' INT TERM
  for part in "${!BESIDE[@]}"; do
    kill -INT -- "-${BESIDE[$part]}" 2>/dev/null || continue
    timeout 20 tail --pid="${BESIDE[$part]}" -f /dev/null || kill -KILL -- "-${BESIDE[$part]}" 2>/dev/null || true
  done
  if [ -n "$BESIDE_FOLDER" ]; then rm -rf "$BESIDE_FOLDER"; fi
  at_the_end
  say "== Summary =="
  if [ ${#SUMMARY[@]} != 0 ]; then printf '%s\n' "${SUMMARY[@]}"; fi
  for part in "${NOT_RUN[@]}"; do printf '%-8s did not run to its end\n' "$part"; done
  if [ "$code" = 0 ] && { [ "$FAILED" != 0 ] || [ ${#NOT_RUN[@]} != 0 ]; }; then code=1; fi
  exit "$code"
}

minutes() { printf '%d:%02d' $(($1 / 60)) $(($1 % 60)); }

# passed PART CODE SECONDS: note how a part ended.
passed() {
  local how=passed
  if [ "$2" != 0 ]; then how=FAILED; FAILED=1; fi
  SUMMARY+=("$(printf '%-8s %s in %s' "$1" "$how" "$(minutes "$3")")")
  local left=() part
  for part in "${NOT_RUN[@]}"; do [ "$part" = "$1" ] || left+=("$part"); done
  NOT_RUN=("${left[@]}")
}

# begin_beside PART [arguments]: run it in the background; what it prints is kept until it is joined.
begin_beside() {
  local part=$1
  BESIDE_FOLDER=${BESIDE_FOLDER:-$(mktemp -d)}
  set -m # a group of its own, which Ctrl+C reaches through end_parts
  (
    local begun=$SECONDS code=0
    ("$@") || code=$?
    echo "$code $((SECONDS - begun))" > "$BESIDE_FOLDER/$part.ended"
  ) > "$BESIDE_FOLDER/$part" 2>&1 &
  BESIDE[$part]=$!
  set +m
  say "== $part == (beside the others; what it prints comes when it has ended)"
}

# join PART: wait for a part in the background, print what it printed.
join() {
  local part=$1 code=1 seconds=0
  if [ -z "${BESIDE[$part]:-}" ]; then return; fi
  wait "${BESIDE[$part]}" || true
  unset "BESIDE[$part]"
  say "== $part =="
  cat "$BESIDE_FOLDER/$part"
  if [ -s "$BESIDE_FOLDER/$part.ended" ]; then read -r code seconds < "$BESIDE_FOLDER/$part.ended"; fi
  passed "$part" "$code" "$seconds"
}

# run_part PART [arguments]
run_part() {
  local begun=$SECONDS code=0
  say "== $1 =="
  ("$@") || code=$?
  passed "$1" "$code" $((SECONDS - begun))
}

# prepared PART: have what it needs ready; where that fails, why was printed, and the others go on.
prepared() {
  if ("needs_$1"); then return 0; fi
  say "“$1” does not run: what it needs could not be made ready, see above."
  return 1
}

# room_on_disk FOLDER MEGABYTES
room_on_disk() {
  local free
  free=$(df -Pm "$1" | awk 'NR == 2 { print $4 }')
  [ "$free" -ge "$2" ] || die "No room: $free MB are free at $1, and the tests need $2 MB."
}
