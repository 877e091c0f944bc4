import { computed, ref, type ComputedRef, type Ref } from 'vue';
import type { Answer, Answers } from '../answers';
import { say } from '../../shared/wording';

/** An answer that was pasted or copied into a cell. */
export interface Filled {
  unit: string;
  field: string;
  answer: Answer;
}

interface Filling {
  fill: (filled: Filled[], what: string) => void;
  /** Takes the last one back, where nobody has typed since. */
  undo: () => void;
  /** What was done last, in words; "" for nothing. */
  told: Ref<string>;
  canUndo: ComputedRef<boolean>;
}

/** What was filled, by unit. */
export function byUnit(filled: Filled[]): Map<string, Answers> {
  const changes = new Map<string, Answers>();
  for (const { unit, field, answer } of filled) changes.set(unit, { ...changes.get(unit), [field]: answer });
  return changes;
}

const sameAs = (a: Answer | undefined, b: Answer | undefined) => JSON.stringify(a ?? '') === JSON.stringify(b ?? '');

/** Fills many cells at once, and takes it back. */
export function useFilling(
  valueOf: (unit: string, field: string) => Answer | undefined,
  set: (changes: Map<string, Answers>) => void,
): Filling {
  const told = ref('');
  const last = ref<(Filled & { before: Answer | undefined })[]>([]);

  function put(filled: Filled[]): void {
    if (filled.length) set(byUnit(filled));
  }

  return {
    told,
    canUndo: computed(() => last.value.length > 0),
    fill(filled, what) {
      last.value = filled.map((f) => ({ ...f, before: valueOf(f.unit, f.field) }));
      told.value = what;
      put(filled);
    },
    undo() {
      put(
        last.value
          .filter(({ unit, field, answer }) => sameAs(valueOf(unit, field), answer))
          .map(({ unit, field, before }) => ({ unit, field, answer: before ?? '' })),
      );
      last.value = [];
      told.value = say('form.undone');
    },
  };
}
