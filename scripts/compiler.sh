#!/bin/sh
# Finds the C compiler the race detector needs, or installs Debian's where this user may.
for name in "${CC:-}" gcc clang cc; do
    [ -n "$name" ] && command -v "$name" >/dev/null 2>&1 && exit 0
done
if command -v apt-get >/dev/null 2>&1 && [ "$(id -u)" = 0 ]; then
    echo "installing a C compiler"
    apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq gcc libc6-dev >/dev/null && exit 0
fi
echo "No C compiler was found and this user may not install one; the race detector needs it." >&2
echo "Install it (on Debian: sudo apt-get install gcc libc6-dev) or set CC to its path." >&2
exit 1
