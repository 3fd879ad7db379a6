"""Where Chromium is and how it is started."""

CHROMIUM = "/usr/bin/chromium"
ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
