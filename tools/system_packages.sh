#!/usr/bin/env bash
# Installs the Debian packages that Mabrel needs, or says which are missing.
set -euo pipefail

# libegl1 and libgl1: Skia; libgomp1: threads of the compiled kernels; chromium: browser tests
packages=(chromium libegl1 libgl1 libgomp1)

missing=()
for package in "${packages[@]}"; do
    dpkg-query --show --showformat='${db:Status-Status}\n' "$package" 2>/dev/null |
        grep --quiet '^installed$' || missing+=("$package")
done
[ ${#missing[@]} -eq 0 ] && exit 0

as_root=()
if [ "$(id -u)" -ne 0 ]; then
    if sudo --non-interactive true 2>/dev/null; then
        as_root=(sudo --non-interactive)
    else
        echo "Mabrel needs these Debian packages: ${missing[*]}" >&2
        echo "Install them with: apt-get install ${missing[*]}" >&2
        exit 1
    fi
fi
export DEBIAN_FRONTEND=noninteractive
"${as_root[@]}" apt-get update -qq
"${as_root[@]}" apt-get install -y -qq --no-install-recommends "${packages[@]}" >/dev/null
