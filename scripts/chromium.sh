#!/bin/sh
# Finds Chromium, or installs Debian's where this user may.
for name in "${CHROMIUM:-}" chromium chromium-browser google-chrome; do
    [ -n "$name" ] && command -v "$name" >/dev/null 2>&1 && exit 0
done
if command -v apt-get >/dev/null 2>&1 && [ "$(id -u)" = 0 ]; then
    echo "installing Chromium"
    apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium >/dev/null && exit 0
fi
echo "No Chromium was found and this user may not install it." >&2
echo "Install it (on Debian: sudo apt-get install chromium) or set CHROMIUM to its path." >&2
exit 1
