/**
 * Tab leaves a list that is open as Escape does: what was only looked at is not taken. (The list's own answer to Tab is to take the entry that it stands on.)
 */
export function leaveList(event: KeyboardEvent): void {
  const box = event.target as HTMLElement;
  if (event.key !== 'Tab' || box.getAttribute('aria-expanded') !== 'true') return;
  event.stopPropagation();
  box.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', code: 'Escape', bubbles: true }));
}
