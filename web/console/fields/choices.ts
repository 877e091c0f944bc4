import type { DraftField } from './draft';

/** A choice as a field of the draft offers it. */
export interface OfferedChoice {
  key: string;
  label: Record<string, string>;
}

/** The labels in a text with one a line, each once. */
export const labelsIn = (text: string): string[] => [
  ...new Set(
    text
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean),
  ),
];

function keyFor(label: string, taken: string[]): string {
  const plain =
    label
      .toLowerCase()
      .replaceAll('ß', 'ss')
      .normalize('NFD')
      .replaceAll(/\p{M}/gu, '')
      .replaceAll(/[^a-z0-9]+/g, '_')
      .replaceAll(/^[_0-9]+|_+$/g, '')
      .slice(0, 36) || 'choice';
  let key = plain;
  for (let n = 2; taken.includes(key); n++) key = `${plain}_${n}`;
  return key;
}

/** Choices with further ones behind them, whose keys are made from their labels. */
export function withLabels<T extends OfferedChoice>(choices: T[], labels: string[]): (T | OfferedChoice)[] {
  const next: (T | OfferedChoice)[] = [...choices];
  for (const label of labels) {
    const taken = next.map((c) => c.key);
    next.push({ key: keyFor(label, taken), label: { en: label } });
  }
  return next;
}

/** The choices that a field offers; none for a field without a list. */
export const choicesOf = (field: DraftField): OfferedChoice[] => (field.field.settings?.choices ?? []) as OfferedChoice[];

/** What a sentence can be about: an answer, whichever it is, or one choice. */
export const answersOf = (field: DraftField) => [
  { key: null, name: 'an answer' },
  ...choicesOf(field).map((c) => ({ key: c.key, name: `“${c.label.en}”` })),
];
