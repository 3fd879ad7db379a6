#!/bin/sh
# Debian's chromium for the browser tests, where it is not there yet.
set -eu
if [ -x /usr/bin/chromium ]; then exit 0; fi
sudo=""
if [ "$(id -u)" -ne 0 ]; then
    if ! command -v sudo >/dev/null; then
        echo "The browser tests need Chromium: run 'apt-get install chromium' as root, then again." >&2
        exit 1
    fi
    sudo=sudo
fi
$sudo apt-get update -qq
DEBIAN_FRONTEND=noninteractive $sudo apt-get install -y -qq --no-install-recommends chromium
