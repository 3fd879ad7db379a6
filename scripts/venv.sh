#!/bin/sh
# Make the virtual environment. Debian keeps the part of Python that makes one in a package
# of its own; where that is missing it is installed first.
set -eu
folder=$1
python=$(command -v "${PYTHON:-python3.11}" || command -v python3 || true)
if [ -z "$python" ] || ! "$python" -c 'import sys; sys.exit(sys.version_info[:2] != (3, 11))'; then
    echo "Python 3.11 is needed. On Debian 12: apt-get install python3" >&2
    exit 1
fi
if ! "$python" -c 'import ensurepip, venv' 2>/dev/null; then
    sudo=""
    if [ "$(id -u)" -ne 0 ]; then
        if ! command -v sudo >/dev/null; then
            echo "Run 'apt-get install python3-venv' as root, then again." >&2
            exit 1
        fi
        sudo=sudo
    fi
    $sudo apt-get update -qq
    DEBIAN_FRONTEND=noninteractive $sudo apt-get install -y -qq --no-install-recommends python3-venv
fi
"$python" -m venv "$folder"
