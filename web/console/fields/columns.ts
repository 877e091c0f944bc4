import { computed, ref, type ComputedRef } from 'vue';
import type { Draft, DraftDestination } from './draft';

/** A column of the map: one destination, or a family of them folded into one. */
export interface Column {
  key: string;
  name: string;
  destinations: DraftDestination[];
  folded: boolean;
}

export interface Family {
  key: string;
  name: string;
  columns: Column[];
  count: number;
  folded: boolean;
}

/** So many columns stand side by side at 1280 px; beyond, families of several are folded until somebody opens them. */
const MOST = 16;
const STORED = 'sexton.folded';

const stored = (): Record<string, boolean> => {
  try {
    return JSON.parse(localStorage.getItem(STORED) ?? '{}') as Record<string, boolean>;
  } catch {
    return {};
  }
};
/** What somebody folded or opened, by the family. */
const chosen = ref(stored());

/** The destinations of the map by family, each family folded or not. */
export function useColumns(draft: () => Draft) {
  // What is retired gets nothing any more, and has no column.
  const destinations = computed(() => draft().destinations.filter((d) => !d.destination.retired));
  const families: ComputedRef<Family[]> = computed(() => {
    const named = new Map(draft().destination_kinds.map((k) => [k.family.key, k.family.name]));
    return [...named]
      .map(([key, name]) => {
        const own = destinations.value.filter((d) => d.family === key);
        const folded = own.length > 1 && (chosen.value[key] ?? (destinations.value.length > MOST && own.length > 4));
        const columns: Column[] = folded
          ? [{ key: `family ${key}`, name: `${own.length} of them`, destinations: own, folded }]
          : own.map((d) => ({ key: d.key, name: d.name, destinations: [d], folded }));
        return { key, name, columns, count: own.length, folded };
      })
      .filter((f) => f.count > 0);
  });

  function fold(family: Family): void {
    chosen.value = { ...chosen.value, [family.key]: !family.folded };
    localStorage.setItem(STORED, JSON.stringify(chosen.value));
  }

  return { families, columns: computed(() => families.value.flatMap((f) => f.columns)), fold };
}
