# Sourced by the make.sh of each story, after it set `out`, `here` and `name`: lays steps, records checks and commits the tree of each step.
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
export LC_ALL=C.UTF-8 TZ=UTC NO_COLOR=1
rm -rf "$out"/[0-9][0-9]-* "$out/notes" "$out/repo"
cp -r "$here/notes" "$out/notes"
cp -r "$here/project" "$work/tree"
git init -q -b main "$out/repo"
cd "$work/tree" || exit 1
number=0

raw() { sed -e "s#$work/tree/##g" -e "s#$work/tree##g" -e "s#$work/##g"; }

# record FILE COMMAND…: what the command prints becomes STEP/FILE, whatever its status.
record() { "${@:2}" >"$work/raw" 2>&1 </dev/null || true; raw <"$work/raw" >"$out/$step/$1"; }

# step NAME: begins a step; the files of steps/NAME lie over the tree.
step() {
  step=$1
  echo "$name: $step"
  mkdir -p "$out/$step"
  if [[ -d $here/steps/$step ]]; then cp -r "$here/steps/$step/." .; fi
}

# commit [FOLDER…]: commits the tree of the step, without the folders that tools fill.
commit() {
  local skip=()
  for folder in "$@"; do skip+=(--exclude="./$folder"); done
  find "$out/repo" -mindepth 1 -maxdepth 1 ! -name .git -exec rm -rf {} +
  tar "${skip[@]}" -cf - . | tar -xf - -C "$out/repo"
  local when="2031-04-$((10 + number)) 09:00:00 +0000"
  number=$((number + 1))
  git -C "$out/repo" add -A
  GIT_AUTHOR_DATE=$when GIT_COMMITTER_DATE=$when GIT_CONFIG_GLOBAL=/dev/null \
    git -C "$out/repo" -c user.name=Sample -c user.email=sample@example.org -c commit.gpgsign=false commit -q --allow-empty -m "$step"
}
