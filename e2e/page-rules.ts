/** Words of a usual length that go on in the next line: their column was squeezed. A file's name may have to. */
export function cutWords(): string[] {
  const out = new Set<string>();
  const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let text = texts.nextNode(); text; text = texts.nextNode()) {
    const el = text.parentElement!;
    if (el.closest('[inert], .js-plotly-plot, .katex, script, style, option')) continue;
    if (!el.checkVisibility({ opacityProperty: true, visibilityProperty: true })) continue;
    for (const word of text.nodeValue!.matchAll(/[\p{L}\p{N}’.,]{2,18}/gu)) {
      const range = document.createRange();
      range.setStart(text, word.index);
      range.setEnd(text, word.index + word[0].length);
      const lines = [...range.getClientRects()].filter((r) => r.width > 0.5).map((r) => r.top);
      if (Math.max(...lines) - Math.min(...lines) > 6) out.add(`“${word[0]}” is cut in two in “${el.textContent.slice(0, 40)}”`);
    }
  }
  return [...out];
}

/** Controls whose 44 px around their middle do not answer to them. */
export function tapTargets(): string[] {
  const out: string[] = [];
  const controls =
    'main button, main a[href], main select, main summary, main textarea, header button, header a, main .ant-select, main .ant-segmented-item, main input:not([type=hidden], [type=file])';
  for (const el of document.querySelectorAll<HTMLElement>(controls)) {
    if (el.closest('.ant-select') && !el.classList.contains('ant-select')) continue;
    if (el.matches('.ant-segmented-item input, .ant-radio-button-input, .ant-checkbox-input, .ant-radio-input, .ant-upload input'))
      continue;
    // A table's hidden copy of its head is no control.
    if (el.closest('[inert]')) continue;
    if (el.closest('.plotly, .js-plotly-plot') || !el.checkVisibility({ opacityProperty: true, visibilityProperty: true })) continue;
    // A figure inside a sentence is part of the line it stands in, and a field's frame is what is touched.
    if (el.closest('p, li') && getComputedStyle(el).display.startsWith('inline')) continue;
    // Brought to the middle: at the edges a table's first and last columns stay where they are, over the others.
    el.scrollIntoView({ block: 'center', inline: 'center' });
    const q = el.getBoundingClientRect();
    if (q.width === 0 || q.height === 0) continue;
    const y = q.top + q.height / 2;
    const x = Math.min(Math.max(q.left + q.width / 2, 1), innerWidth - 2);
    const label = el.closest('label');
    const mine = (px: number, py: number): boolean => {
      const hit = document.elementFromPoint(px, py);
      return (
        hit !== null &&
        (el.contains(hit) || hit.contains(el) || label?.contains(hit) === true || hit.closest('label')?.contains(el) === true)
      );
    };
    const other = [y - 19, y + 19].some((py) => {
      const hit = document.elementFromPoint(x, py);
      const control = hit?.closest('button, a[href], select, summary, input, .ant-select');
      return (
        control !== null &&
        control !== undefined &&
        control !== el &&
        !el.contains(control) &&
        !control.contains(el) &&
        control.closest('label') !== label
      );
    });
    if (!mine(x, y) || other || (q.height < 43.5 && ![y - 19, y + 19].every((py) => mine(x, py))))
      out.push(
        `${el.tagName.toLowerCase()} ${Math.round(q.width)}×${Math.round(q.height)} “${(el.getAttribute('aria-label') ?? el.textContent ?? '').slice(0, 40)}”`,
      );
  }
  return out;
}

/**
 * Texts, choices and placeholders that have less room than they take: the end of what is chosen is not to be read. What people named
 * themselves may be of any length; a label for who does not see is clipped on purpose, to a point.
 */
export function clippedTexts(named: readonly string[]): string[] {
  const out = new Set<string>();
  const pen = document.createElement('canvas').getContext('2d')!;
  const tell = (text: string, takes: number, has: number): void => {
    if (takes > has + 1 && has > 4 && !named.some((n) => text.includes(n)))
      out.add(`“${text.trim().slice(0, 40)}” takes ${Math.round(takes)} px of ${Math.round(has)}`);
  };
  for (const el of document.querySelectorAll<HTMLElement>('body *')) {
    if (el.closest('[inert], .js-plotly-plot, .katex, script, style, svg')) continue;
    if (!el.checkVisibility({ opacityProperty: true, visibilityProperty: true })) continue;
    const style = getComputedStyle(el);
    const room = el.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight);
    const field = el.matches('input:not([type=checkbox], [type=radio], [type=file], [type=range])') ? (el as HTMLInputElement) : null;
    const shown = field ? field.value || field.placeholder : el instanceof HTMLSelectElement ? el.selectedOptions[0]?.text : undefined;
    if (shown !== undefined) {
      pen.font = style.font;
      tell(shown, pen.measureText(shown).width, room);
    } else if ([...el.childNodes].some((n) => n.nodeType === Node.TEXT_NODE && n.nodeValue!.trim() !== '') && style.display !== 'inline') {
      if (style.overflowX !== 'visible') tell(el.textContent, el.scrollWidth, el.clientWidth);
      if (style.overflowY === 'hidden') tell(el.textContent, el.scrollHeight - 2, el.clientHeight);
    }
  }
  return [...out];
}
