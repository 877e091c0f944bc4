import { onBeforeUnmount, watch } from 'vue';
import type { Answer, Asked } from './answers';

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

/**
 * Takes what the page gives as if it had been entered where it is asked, also what it gave before the field was asked.
 */
export function takeGiven(
  asked: () => Asked[],
  valueOf: (field: string, unit: string | null) => Answer | undefined,
  set: (answers: { field: string; unit: string | null; value: Answer }[]) => void,
): void {
  onBeforeUnmount(
    onGiven(({ field, unit = null, value }) => {
      if (asked().some((a) => a.given_by_page && a.field === field && a.unit_id === unit)) set([{ field, unit, value }]);
    }),
  );
  watch(
    () =>
      asked()
        .filter((a) => a.given_by_page)
        .map((a) => a.slot)
        .join(),
    () => {
      const fresh = asked()
        .filter((a) => a.given_by_page)
        .map((a) => ({ field: a.field, unit: a.unit_id, value: givenFor(a.field, a.unit_id) }))
        .filter((g) => g.value !== undefined && JSON.stringify(g.value) !== JSON.stringify(valueOf(g.field, g.unit)));
      if (fresh.length) set(fresh as { field: string; unit: string | null; value: Answer }[]);
    },
    { immediate: true },
  );
}

const givenFor = (field: string, unit: string | null): Answer | undefined => last.get(keyOf(field, unit))?.value;

// Calls back with everything that the page gives from now on; gives back what ends that.
function onGiven(tell: (given: Given) => void): () => void {
  listeners.add(tell);
  return () => void listeners.delete(tell);
}
