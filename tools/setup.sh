# Shared by run and check: system libraries by apt where it may, and the virtual environment.
# Quick when there is nothing to do: a stamp holds the checksum of what was installed from.

# What Qt's xcb platform and OpenGL need on Debian and Ubuntu.
SYSTEM_WINDOW=(libgl1 libegl1 libglx-mesa0 libgl1-mesa-dri libxkbcommon-x11-0 libxcb-cursor0 libxcb-icccm4
  libxcb-image0 libxcb-keysyms1 libxcb-randr0 libxcb-render-util0 libxcb-shape0 libxcb-xinerama0 libxcb-xfixes0
  libdbus-1-3 libfontconfig1 libx11-6)
SYSTEM_TEST=(xvfb xauth desktop-file-utils appstream shared-mime-info)

setup_system() {
  command -v dpkg-query >/dev/null || { echo "not a Debian or Ubuntu system: install the equivalents of: $*" >&2; return 0; }
  local missing=() package
  for package in "$@"; do
    dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q "ok installed" || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] && return 0
  local apt="apt-get install -y --no-install-recommends ${missing[*]}"
  if [ "$(id -u)" = 0 ]; then
    echo "installing ${missing[*]}"
    (apt-get update -qq && DEBIAN_FRONTEND=noninteractive $apt -qq) >/dev/null || {
      echo "could not install the system libraries; run: apt-get update && $apt" >&2; return 1; }
  elif command -v sudo >/dev/null && sudo -n true 2>/dev/null; then
    sudo apt-get update -qq && sudo DEBIAN_FRONTEND=noninteractive $apt -qq
  else
    echo "system libraries are missing; run this once, then again this script:" >&2
    echo "  sudo apt-get update && sudo $apt" >&2
    return 1
  fi
}

find_python() {
  local name
  for name in python3.12 python3.11 python3.13 python3; do
    "$name" -c 'import sys, venv, ensurepip; sys.exit(not (3, 11) <= sys.version_info[:2] < (3, 14))' 2>/dev/null && {
      command -v "$name"; return 0; }
  done
  setup_system python3-venv || true
  python3 -c 'import sys, venv, ensurepip; sys.exit(not (3, 11) <= sys.version_info[:2] < (3, 14))' 2>/dev/null && {
    command -v python3; return 0; }
  echo "Python 3.11, 3.12 or 3.13 with venv is needed: sudo apt-get install python3 python3-venv" >&2
  return 1
}

# setup_venv EXTRAS [FOLDER]: a virtual environment with the product and these extras.
setup_venv() {
  local extras=$1 folder="$here/${2:-.venv}"
  local stamp="$folder/.stamp-${extras//,/-}" sum
  sum=$(cat "$here/pyproject.toml" "$here/tools/setup.sh" | sha256sum)
  if [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$sum" ] && [ -x "$folder/bin/lathed-solid" ]; then return 0; fi
  local python
  python=$(find_python) || return 1
  "$folder/bin/python" -c '' 2>/dev/null || { rm -rf "$folder"; echo "making ${folder##*/} with $python"; "$python" -m venv "$folder"; }
  echo "installing packages into ${folder##*/} (once)"
  "$folder/bin/python" -m pip install --quiet --disable-pip-version-check --editable "$here[$extras]" || return 1
  "$folder/bin/python" -m compileall -q "$here/src" || true  # an editable install leaves this to the first start
  echo "$sum" > "$stamp"
}
