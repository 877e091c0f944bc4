import type { Draft } from './draft';
import { nameOf } from './groups';

/** What in the draft reads the answer to a field or opening question, by name: conditions, formulas, prices, destinations that take an address or a day from it. */
export function readersOf(draft: Draft, key: string): string[] {
  const reads = (definition: unknown, ...wanted: string[]) => {
    const text = JSON.stringify(definition);
    return [`"answer.${key}"`, ...wanted].some((w) => text.includes(w));
  };
  return [
    ...draft.fields.filter((f) => f.field.key !== key && reads(f.field)).map((f) => `“${nameOf(f)}”`),
    ...draft.sections.filter((s) => s.section.key !== key && reads(s.section)).map((s) => `“${s.section.heading.en}”`),
    ...draft.destinations.filter((d) => reads(d.destination, `"${key}"`)).map((d) => d.name),
  ];
}

/** The sentence about those that read it; "" where none does. */
export function toldOf(all: string[]): string {
  const readers = [...new Set(all)];
  if (!readers.length) return '';
  const [some, more] = [readers.slice(0, 3).join(', '), readers.length - 3];
  return ` ${some}${more > 0 ? ` and ${more} more` : ''} ${readers.length === 1 ? 'reads' : 'read'} it: there it counts as not given.`;
}
