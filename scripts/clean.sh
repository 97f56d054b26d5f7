#!/usr/bin/env bash
# Runs the whole test on a clean clone with an empty home, and before that says what of this machine it could lean on that
# ./tevrik does not install: programs and fonts. Bounded; everything it makes goes with it.
set -euo pipefail
cd "$(dirname "$(readlink -f "$0")")/.."

# What ./tevrik installs from Debian, and what Node.js brings.
allowed='mariadb|galera|chromium|nodejs|npm|haproxy|rsync|iproute2'
echo 'fonts of this machine (tests draw in faces from node_modules):'
fc-list 2>/dev/null | sed 's/:.*//' | xargs -r -n1 dirname | sort | uniq -c || true
echo 'packages installed by hand that ./tevrik does not ask for:'
apt-mark showmanual 2>/dev/null | grep -vE "^($allowed)" | tr '\n' ' ' | cut -c1-1000
echo

folder=$(mktemp -d)
trap 'rm -rf "$folder"' EXIT
git clone -q . "$folder/tevrik"
mkdir "$folder/home"
cd "$folder/tevrik"
# Neither settings nor caches of whoever runs this, but the way to the registry.
mapfile -t registry < <(env | grep -iE '^(npm_config_|https?_proxy|no_proxy|ssl_cert|node_extra_ca)' || true)
env -i HOME="$folder/home" PATH="$PATH" LANG=C.UTF-8 TMPDIR="${TMPDIR:-/tmp}" CI=true "${registry[@]}" \
	timeout 5400 bash .ci/run
