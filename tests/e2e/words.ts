import type { Page } from '@playwright/test';

/** Where two words or sentences stand in the page with nothing between them, although they belong to two elements: they are read out, copied and found as one. */
export function wordsRunTogether(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const inline = new Set(['inline', 'contents', 'inline-block', 'inline-flex', 'inline-grid']);
    const isInline = (e: Element) => inline.has(getComputedStyle(e).display);
    const parts = (e: Element) => ['BR', 'INPUT', 'TEXTAREA', 'SELECT', 'IMG'].includes(e.tagName) || e.tagName === 'svg' || !isInline(e);
    const found: string[] = [];
    const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    let before: Text | undefined;
    while (texts.nextNode()) {
      const text = texts.currentNode as Text;
      const parent = text.parentElement!;
      // What is marked behind a text repeats it, for the eye alone.
      if (!text.data || parent.closest('script, style, option, .entry-over') || !parent.checkVisibility({ visibilityProperty: true }))
        continue;
      if (before && /[\p{L}\p{N}.:;!?]$/u.test(before.data) && /^[\p{L}\p{N}]/u.test(text.data)) {
        const both = document.createRange();
        both.setStartBefore(before);
        both.setEndAfter(text);
        const around = both.commonAncestorContainer as Element;
        // What is a block of its own, around one of them or between them, keeps them apart.
        const apart = [...around.querySelectorAll('*')].some(
          (e) =>
            parts(e) &&
            (e.contains(before!) || e.contains(text) || (before!.compareDocumentPosition(e) & 4 && e.compareDocumentPosition(text) & 4)),
        );
        if (!apart) found.push(`${before.data.trim().slice(-20)}|${text.data.trim().slice(0, 20)}`);
      }
      before = text;
    }
    return found;
  });
}
