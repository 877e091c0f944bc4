import type { Condition, Value } from './condition';

/** Something that a row works with; see the core's Term. */
export interface Term {
  value?: Value | null;
  fact?: string | null;
  length_by?: string | null;
  days_to?: string | null;
  over?: string | null;
  summary?: string;
  where?: Condition | null;
  rows?: Row[];
  else?: Value | null;
}

/** One row of a formula. */
export interface Row {
  do: string;
  of?: Term | null;
  to?: number;
  between?: string;
  bands?: { over: number; gives: number }[];
}

export const steps = [
  { key: 'plus', name: 'plus' },
  { key: 'minus', name: 'less' },
  { key: 'times', name: 'times' },
  { key: 'divided_by', name: 'divided by' },
  { key: 'at_least', name: 'but at least' },
  { key: 'at_most', name: 'but at most' },
  { key: 'round_up', name: 'rounded up to' },
  { key: 'round_down', name: 'rounded down to' },
  { key: 'round', name: 'rounded to' },
  { key: 'by_bands', name: 'looked up in a table' },
  { key: 'then', name: 'followed by' },
];

export const shapes = [
  { key: 'fact', name: 'an answer or a fact' },
  { key: 'number', name: 'the number' },
  { key: 'text', name: 'the words' },
  { key: 'length', name: 'the length of' },
  { key: 'days', name: 'the days from' },
  { key: 'summary', name: 'over lines or units' },
  { key: 'rows', name: 'rows of their own' },
];

export const lengths = [
  { key: 'letter', name: 'letters' },
  { key: 'character', name: 'characters' },
  { key: 'word', name: 'words' },
];

export const summaries = [
  { key: 'count', name: 'how many' },
  { key: 'sum', name: 'the sum of' },
  { key: 'greatest', name: 'the greatest of' },
  { key: 'least', name: 'the least of' },
];

export const isRounding = (row: Row) => ['round_up', 'round_down', 'round'].includes(row.do);

/** Which shape a term has. */
export function shapeOf(term: Term): string {
  if (term.rows?.length) return 'rows';
  if (term.over) return 'summary';
  if (term.days_to !== undefined && term.days_to !== null) return 'days';
  if (term.length_by) return 'length';
  return typeof term.value === 'number' ? 'number' : typeof term.value === 'string' ? 'text' : 'fact';
}

/** A term of a shape, to begin with. */
export function fresh(shape: string, level: string): Term {
  const facts: Record<string, Term> = {
    number: { value: 1 },
    text: { value: '' },
    length: { fact: '', length_by: 'letter' },
    days: { fact: 'date', days_to: '' },
    summary: { over: level === 'order' ? 'line' : 'unit', summary: 'count' },
    rows: { rows: [{ do: 'take', of: { value: 1 } }] },
  };
  return facts[shape] ?? { fact: '' };
}
