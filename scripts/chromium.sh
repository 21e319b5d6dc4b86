#!/bin/sh
# Finds a headless Chromium, or installs Debian's where this user may. Its headless shell is the same browser without a window, and a
# third faster in the tests; the whole of it serves as well.
found() {
    for name in "$@"; do
        [ -n "$name" ] && command -v "$name" >/dev/null 2>&1 && return 0
    done
    return 1
}
found "${CHROMIUM:-}" chromium-headless-shell && exit 0
if command -v apt-get >/dev/null 2>&1 && [ "$(id -u)" = 0 ]; then
    echo "installing Chromium"
    apt-get update -qq || echo "the list of packages could not be read anew" >&2
    for package in chromium-headless-shell chromium; do
        found chromium && [ $package = chromium ] && break
        DEBIAN_FRONTEND=noninteractive apt-get install -y -qq $package >/dev/null && exit 0
    done
fi
found chromium chromium-browser && exit 0
echo "No Chromium was found and this user may not install it." >&2
echo "Install it (on Debian: sudo apt-get install chromium-headless-shell) or set CHROMIUM to its path." >&2
exit 1
