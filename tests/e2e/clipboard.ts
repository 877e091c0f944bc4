import type { Page } from '@playwright/test';

/** Pastes where the focus is, as the clipboard of a spreadsheet gives a block. */
export const paste = (page: Page, text: string): Promise<void> =>
  page.evaluate((block) => {
    const data = new DataTransfer();
    data.setData('text/plain', block);
    document.activeElement!.dispatchEvent(new ClipboardEvent('paste', { bubbles: true, cancelable: true, clipboardData: data }));
  }, text);
