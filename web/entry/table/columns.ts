import type { Asked } from '../answers';
import { isBox } from '../boxes';
import { isNameInParts } from '../controls/parts';

/** How a question is entered in a table: typed or picked in its cell, ticked, opened under its row, or only told. */
export type Manner = 'typed' | 'picked' | 'ticked' | 'opened' | 'told';

/** A question of each one: a column of the table. */
export interface Column {
  field: string;
  /** The question at the first that is asked it. */
  asked: Asked;
  manner: Manner;
}

const manners: Record<string, Manner> = {
  long_text: 'opened',
  file: 'opened',
  picture: 'opened',
  postal_address: 'opened',
  several_of: 'opened',
  how_many_of_each: 'opened',
  time_slot: 'opened',
  one_of: 'picked',
  country: 'picked',
  yes_no: 'picked',
  agreed_to: 'ticked',
  worked_out: 'told',
};

/** How a question is entered in its cell. */
export const mannerOf = (asked: Asked): Manner =>
  asked.given_by_page ? 'told' : isBox(asked) ? 'ticked' : isNameInParts(asked) ? 'opened' : (manners[asked.type] ?? 'typed');

/** The questions of all of them as columns: each after the one that it follows where it is asked. */
export function columnsOf(asked: Asked[]): Column[] {
  const columns: Column[] = [];
  let unit: string | null = null;
  let at = 0;
  for (const one of asked) {
    if (one.unit_id !== unit) [unit, at] = [one.unit_id, 0];
    if (one.kept_off || one.type === 'words_only') continue;
    const known = columns.findIndex((c) => c.field === one.field);
    if (known < 0) columns.splice(at, 0, { field: one.field, asked: one, manner: mannerOf(one) });
    at = (known < 0 ? at : known) + 1;
  }
  return columns;
}
