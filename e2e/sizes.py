"""Sizes that axe does not ask for: of what is pressed with a thumb, and of what is read."""

from typing import Final

UNFOLD: Final = "() => document.querySelectorAll('details').forEach(one => { one.open = true; })"
"""Everything that is folded stands open."""

SMALL: Final = """() => {
  const found = [];
  const around = 'p, li, td, dd, th, dt, figcaption, summary, label, h2, h3, .breadcrumb';
  const inText = (one) => one.tagName === 'A' && one.closest(around)
    && !one.matches('.btn, .nav-link');
  const all = 'a[href], button, summary, select, input:not([type=hidden]), textarea';
  for (const one of document.querySelectorAll(all)) {
    if (inText(one) || one.closest('svg, [aria-hidden=true]') || one.matches('.skip, .btn-check'))
      continue;
    const ticks = one.matches('input[type=checkbox], input[type=radio]');
    const whole = ticks ? (one.closest('label') ?? one) : one;
    const box = whole.getBoundingClientRect();
    if (!box.width || !box.height) continue;
    if (getComputedStyle(whole).visibility === 'hidden') continue;
    if (box.height >= 43.5 && box.width >= 24) continue;
    const words = (one.textContent || one.name || '').trim().slice(0, 30);
    const size = `${Math.round(box.width)}x${Math.round(box.height)}`;
    found.push(`${one.tagName} ${one.className} "${words}" ${size}`);
  }
  return [...new Set(found)];
}"""
"""What is pressed on a phone and is lower than 44 px."""

TINY: Final = """() => {
  const found = [];
  for (const one of document.querySelectorAll('body *')) {
    const own = [...one.childNodes].some(node => node.nodeType === 3 && node.textContent.trim());
    if (!own || one.closest('.visually-hidden, script, style, noscript, template')) continue;
    const box = one.getBoundingClientRect();
    if (!box.width || !box.height || box.right < 0) continue;
    const scale = one.ownerSVGElement ? (one.getScreenCTM()?.a ?? 1) : 1;
    const size = parseFloat(getComputedStyle(one).fontSize) * scale;
    if (!size || size >= 11.9) continue;
    const kind = one.getAttribute('class') ?? '';
    found.push(`${one.tagName} ${kind} "${one.textContent.trim().slice(0, 24)}" ${size}`);
  }
  return found.slice(0, 12);
}"""
"""What is written smaller than 12 px."""

BROKEN: Final = """() => {
  const found = [];
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (walker.nextNode()) {
    const node = walker.currentNode;
    for (const figure of node.data.matchAll(/[0-9][0-9.,]+/g)) {
      const range = document.createRange();
      range.setStart(node, figure.index);
      range.setEnd(node, figure.index + figure[0].length);
      const drawn = [...range.getClientRects()].filter(box => box.width > 0);
      if (new Set(drawn.map(box => Math.round(box.top))).size > 1)
        found.push(`${figure[0]} in "${node.data.trim().slice(0, 40)}"`);
    }
  }
  return [...new Set(found)].slice(0, 12);
}"""
"""Figures that a narrow column broke in two: 4,022 over two lines is read as 4,0 and 22."""
