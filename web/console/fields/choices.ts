import type { DraftField } from './draft';

/** A choice as a field of the draft offers it. */
export interface OfferedChoice {
  key: string;
  label: Record<string, string>;
}

/** The choices that a field offers; none for a field without a list. */
export const choicesOf = (field: DraftField): OfferedChoice[] => (field.field.settings?.choices ?? []) as OfferedChoice[];

/** What a sentence can be about: an answer, whichever it is, or one choice. */
export const answersOf = (field: DraftField) => [
  { key: null, name: 'an answer' },
  ...choicesOf(field).map((c) => ({ key: c.key, name: `“${c.label.en}”` })),
];
