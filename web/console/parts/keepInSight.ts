/**
 * Brings something into the middle of what scrolls it, and keeps it in sight while the room around it still changes, until somebody goes elsewhere.
 * @param element What is to be seen, with the focus in it.
 * @param scroller What scrolls it.
 */
export function keepInSight(element: HTMLElement, scroller: Element): void {
  element.scrollIntoView({ block: 'center' });
  const room = new ResizeObserver(() => element.scrollIntoView({ block: 'nearest' }));
  room.observe(scroller);
  const leave = new AbortController();
  const end = () => {
    room.disconnect();
    leave.abort();
  };
  element.addEventListener('focusout', end, { signal: leave.signal });
  scroller.addEventListener('wheel', end, { signal: leave.signal, passive: true });
  scroller.addEventListener('pointerdown', end, { signal: leave.signal });
}
