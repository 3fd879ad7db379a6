"""Write styles and scripts one declaration a line; with ``--check`` only say which are not so.

The formatters are the ones that the template linter brings.
"""

from __future__ import annotations

import re
import sys
from collections.abc import Iterator
from pathlib import Path

import cssbeautifier
import jsbeautifier

ROOT = Path(__file__).resolve().parent.parent
WIDTH = 100


def own_files() -> Iterator[Path]:
    """Styles and scripts of the application's own, those of others aside."""
    for path in sorted(ROOT.glob("*/static/**/*")) + sorted(ROOT.glob("aspects/*/static/**/*")):
        if path.suffix in (".css", ".js") and "vendor" not in path.parts:
            yield path


def tidied(path: Path) -> str:
    """The file as it should be written."""
    text = path.read_text(encoding="utf-8")
    if path.suffix == ".css":
        css = cssbeautifier.default_options()
        css.indent_size = 2
        css.end_with_newline = True
        css.newline_between_rules = True
        css.selector_separator_newline = True
        written = cssbeautifier.beautify(text, css)
        # every declaration ends alike, the last one too; one empty line between rules
        written = re.sub(r"([^;{}\s])\n(\s*)\}", r"\1;\n\2}", written)
        return re.sub(r"\n\n(\s*\})", r"\n\1", re.sub(r"\n{3,}", "\n\n", written))
    js = jsbeautifier.default_options()
    js.indent_size = 2
    js.end_with_newline = True
    js.preserve_newlines = True
    js.max_preserve_newlines = 2
    js.brace_style = "collapse,preserve-inline"
    js.operator_position = "preserve-newline"
    js.space_after_anon_function = True
    js.wrap_line_length = 0
    return str(jsbeautifier.beautify(text, js))


def main() -> int:
    """Write the files, or count the ones that would change."""
    check = "--check" in sys.argv[1:]
    changed = [path for path in own_files() if path.read_text(encoding="utf-8") != tidied(path)]
    for path in changed:
        if not check:
            path.write_text(tidied(path), encoding="utf-8")
        print(f"{'not tidy' if check else 'tidied'}: {path.relative_to(ROOT)}")
    return len(changed) if check else 0


if __name__ == "__main__":
    raise SystemExit(main())
