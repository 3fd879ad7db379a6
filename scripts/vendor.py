"""Copy the browser's fonts, styles and scripts out of their npm packages.

Run by hand after a version in ``package.json`` changes; needs npm. What it copies is
committed, with the packages' licences; ``versions.json`` beside it records package, version and
digest, so that nothing is fetched at run time.
"""

from __future__ import annotations

import hashlib
import io
import json
import re
import shutil
import subprocess
import tempfile
from pathlib import Path

from fontTools import subset
from fontTools.ttLib import TTFont

ROOT = Path(__file__).resolve().parent.parent
TARGET = ROOT / "web" / "static" / "vendor"
TEST_TARGET = ROOT / "e2e" / "vendor"

LICENCES = ROOT / "scripts" / "licences"
"""Licences of packages that come without the text of theirs."""

FONTS = {"barlow": (400, 500, 600), "barlow-semi-condensed": (500, 600)}

FILES = {
    "@alpinejs/csp": {"dist/cdn.min.js": "alpine-csp.min.js"},
    "bootstrap": {"dist/css/bootstrap.min.css": "bootstrap.min.css"},
    "htmx.org": {"dist/htmx.min.js": "htmx.min.js"},
    "idiomorph": {"dist/idiomorph-ext.min.js": "idiomorph-ext.min.js"},
} | {
    f"@fontsource/{family}": {
        f"files/{family}-latin-{weight}-normal.woff2": f"{family}-{weight}.woff2"
        for weight in weights
    }
    for family, weights in FONTS.items()
}
PAPER_TARGET = ROOT / "aspects" / "card" / "fonts"
PAPER_FONTS = {"barlow": (400, 600), "barlow-semi-condensed": (600,)}
"""The same faces as a PDF takes them: whole files, Latin letters and the further ones of Europe."""

PAPER_FILES = {
    f"@fontsource/{family}": {
        f"files/{family}-{letters}-{weight}-normal.woff": f"{family}-{weight}-{letters}.ttf"
        for weight in weights
        for letters in ("latin", "latin-ext")
    }
    for family, weights in PAPER_FONTS.items()
}
TEST_FILES = {"axe-core": {"axe.min.js": "axe.min.js"}}


FEATURES = ["ccmp", "kern", "locl", "mark", "mkmk", "tnum"]
"""What of a font's layout the pages use; its fractions and the rest stay behind."""


def lighter(data: bytes) -> bytes:
    """A web font without what screens of today do not use: its hints are two fifths of it."""
    font, out = TTFont(io.BytesIO(data)), io.BytesIO()
    options = subset.Options(hinting=False, layout_features=FEATURES)
    letters = subset.Subsetter(options)
    letters.populate(unicodes=list(font.getBestCmap()))
    letters.subset(font)
    font.save(out)
    return out.getvalue()


def unpacked(data: bytes) -> bytes:
    """A web font as the plain font in it."""
    font, out = TTFont(io.BytesIO(data)), io.BytesIO()
    font.flavor = None
    font.save(out)
    return out.getvalue()


def copy(modules: Path, files: dict[str, dict[str, str]], target: Path) -> None:
    """Copy the named files and record where each comes from."""
    target.mkdir(parents=True, exist_ok=True)
    versions = {}
    for package, names in files.items():
        about = json.loads((modules / package / "package.json").read_text(encoding="utf-8"))
        for source, name in names.items():
            data = (modules / package / source).read_bytes()
            if name.endswith((".js", ".css")):
                # source maps are not shipped, so nothing may point at one
                data = re.sub(rb"\n?(//#|/\*#) sourceMappingURL=\S+( \*/)?\n?$", b"\n", data)
            if name.endswith(".woff2"):
                data = lighter(data)
            if name.endswith(".ttf"):
                data = unpacked(data)
            (target / name).write_bytes(data)
            versions[name] = {
                "package": package,
                "version": about["version"],
                "license": about["license"],
                "sha256": hashlib.sha256(data).hexdigest(),
            }
        name = f"{package.strip('@').replace('/', '-')}.txt"
        licence = next(iter(sorted((modules / package).glob("LICENSE"))), LICENCES / name)
        kept = target / "licences" / name
        kept.parent.mkdir(exist_ok=True)
        kept.write_text(licence.read_text(encoding="utf-8").strip() + "\n", encoding="utf-8")
    (target / "versions.json").write_text(json.dumps(versions, indent=2) + "\n", encoding="utf-8")


def main() -> None:
    """Install the packages into a scratch folder and copy what the application ships."""
    with tempfile.TemporaryDirectory() as scratch:
        shutil.copy(ROOT / "package.json", scratch)
        subprocess.run(
            ["npm", "install", "--no-audit", "--no-fund", "--ignore-scripts", "--no-package-lock"],
            cwd=scratch,
            check=True,
        )
        modules = Path(scratch) / "node_modules"
        copy(modules, FILES, TARGET)
        copy(modules, TEST_FILES, TEST_TARGET)
        copy(modules, PAPER_FILES, PAPER_TARGET)


if __name__ == "__main__":
    main()
