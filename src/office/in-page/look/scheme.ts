/** Whether the page has another look for those who want it dark. */
export function hasDark(): boolean {
  if (/\bdark\b/.test(getComputedStyle(document.documentElement).colorScheme)) return true;
  const media = document.querySelectorAll(
    'link[media*="prefers-color-scheme"],style[media*="prefers-color-scheme"]',
  );
  return (
    media.length > 0 || conditions().some(({ media }) => /prefers-color-scheme:\s*dark/.test(media.mediaText))
  );
}

/** Makes the page be drawn as for somebody who wants it dark. @returns what turns it back. */
export function turnDark(): () => void {
  const { documentElement: root } = document;
  const undo: (() => void)[] = [];
  for (const { media } of conditions()) {
    const was = media.mediaText;
    if (!was.includes('prefers-color-scheme')) continue;
    media.mediaText = dark(was);
    undo.push(() => {
      media.mediaText = was;
    });
  }
  for (const el of document.querySelectorAll(
    'link[media*="prefers-color-scheme"],style[media*="prefers-color-scheme"]',
  )) {
    const was = el.getAttribute('media') ?? '';
    el.setAttribute('media', dark(was));
    undo.push(() => el.setAttribute('media', was));
  }
  if (/\bdark\b/.test(getComputedStyle(root).colorScheme)) {
    const was = root.style.colorScheme;
    root.style.colorScheme = 'dark';
    undo.push(() => {
      root.style.colorScheme = was;
    });
  }
  return () => {
    for (const back of undo) back();
  };
}

/** What always holds in place of "dark", what never does in place of "light". */
const dark = (media: string): string =>
  media
    .replace(/\(\s*prefers-color-scheme:\s*dark\s*\)/g, '(min-width: 0px)')
    .replace(/\(\s*prefers-color-scheme:\s*light\s*\)/g, '(max-width: 0px)');

function conditions(): CSSMediaRule[] {
  const found: CSSMediaRule[] = [];
  const look = (holder: CSSStyleSheet | CSSGroupingRule): void => {
    for (const rule of holder.cssRules) {
      if (rule instanceof CSSMediaRule) found.push(rule);
      if (rule instanceof CSSGroupingRule) look(rule);
      else if (rule instanceof CSSImportRule && rule.styleSheet) look(rule.styleSheet);
    }
  };
  for (const sheet of document.styleSheets) {
    try {
      look(sheet);
    } catch {
      // A sheet from elsewhere may not be read.
    }
  }
  return found;
}
