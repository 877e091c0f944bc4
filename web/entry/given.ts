import type { Answer } from './answers';

/**
 * Answers that the shop's own page gives by a script instead of the shopper by hand: it dispatches "sexton-answer" on the window,
 *
 *     window.dispatchEvent(new CustomEvent('sexton-answer', { detail: { field: 'site_light', value: 'full sun' } }))
 *
 * with the id of the unit beside it where each one is asked. What is given is checked like any answer. It may come before the form is there.
 */
export interface Given {
  field: string;
  unit?: string | null;
  value: Answer;
}

const last = new Map<string, Given>();
const listeners = new Set<(given: Given) => void>();
const keyOf = (field: string, unit: string | null | undefined) => `${unit ?? ''}/${field}`;

window.addEventListener('sexton-answer', (event) => {
  const given = (event as CustomEvent<Given | undefined>).detail;
  if (!given || typeof given.field !== 'string' || given.value === undefined) return;
  last.set(keyOf(given.field, given.unit), given);
  listeners.forEach((tell) => tell(given));
});

/** What the page gave last for a field; undefined for nothing yet. */
export const givenFor = (field: string, unit: string | null): Answer | undefined => last.get(keyOf(field, unit))?.value;

/** Calls back with everything that the page gives from now on; gives back what ends that. */
export function onGiven(tell: (given: Given) => void): () => void {
  listeners.add(tell);
  return () => void listeners.delete(tell);
}
