import type { AnswerProblem, Asked } from './answers';

/** A question as the form draws it. */
export interface Row {
  field: Asked;
  /** The id of its control. */
  id: string;
  /** What is wrong with it and due to be said. */
  problem?: AnswerProblem;
  /** Whether its control is several inputs under one label. */
  group: boolean;
  /** Whether it is a single box before its question. */
  box: boolean;
  /** What was answered before, shown as such; undefined while it is asked. */
  settled?: string;
  describedBy?: string;
  /** The questions that stand between its parts, by the part before them. */
  between: Record<string, Row[]>;
}

/** Puts the questions that stand between the parts of an address there; where the address is not asked beside them, or shown as answered, they stand by themselves. */
export function betweenParts(rows: Row[]): Row[] {
  const placeOf = (row: Row) => {
    const [address, part] = row.field.stands_after?.split('.') ?? [];
    const holder = rows.find((r) => r !== row && r.field.field === address && !r.settled && r.field.type === 'postal_address');
    return holder && part ? { holder, part } : undefined;
  };
  for (const row of rows) {
    const place = placeOf(row);
    if (place) (place.holder.between[place.part] ??= []).push(row);
  }
  return rows.filter((row) => !placeOf(row));
}
