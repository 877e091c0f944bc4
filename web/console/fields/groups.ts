import type { Draft, DraftField } from './draft';

export interface FieldGroup {
  key: string;
  /** The key of the section, when the group is one. */
  section?: string;
  title: string;
  note: string;
  fields: DraftField[];
}

const often = { order: 'once for every order', line: 'once for every line', unit: 'once for each one of a line' };
const loose = { unit: 'Each one of a line', line: 'Every line', order: 'Every order' };

export const nameOf = (f: DraftField) => f.field.staff_label || f.field.label.en || f.field.key;

/** The key of the step where a field is asked: that of its section, where it stands in one. */
export const stepOf = (draft: Draft, { field }: DraftField): string =>
  draft.sections.find((s) => s.section.key === field.section)?.section.step ?? field.step;

/** The fields by section, then those of no section; from each one of a line to the whole order. Only those that a word is found in. */
export function groupsOf(draft: Draft, word: string): FieldGroup[] {
  const plain = word.trim().toLowerCase();
  const found = draft.fields.filter((f) => !plain || nameOf(f).toLowerCase().includes(plain) || f.field.key.includes(plain));
  return (['unit', 'line', 'order'] as const)
    .flatMap((level) => [
      ...draft.sections
        .filter((s) => s.section.level === level)
        .map((s) => ({
          key: s.section.key,
          section: s.section.key,
          title: s.section.heading.en ?? s.section.key,
          note: [
            often[level],
            s.section.opening?.en && `opens with “${s.section.opening.en}”`,
            s.sentences.when && `when ${s.sentences.when}`,
          ]
            .filter(Boolean)
            .join(' · '),
          fields: found.filter((f) => f.field.section === s.section.key),
        })),
      { key: level, title: loose[level], note: '', fields: found.filter((f) => f.field.level === level && !f.field.section) },
    ])
    .filter((g) => g.fields.length > 0 || ('section' in g && !plain));
}

/** Whether a product has a word, in small letters, in its name or code. */
export const isFound = ({ name, code }: Draft['products'][number], word: string): boolean =>
  name.toLowerCase().includes(word) || code.toLowerCase().includes(word);
