import type { Asked } from '../answers';
import { answerFrom } from './cellValues';
import type { Column } from './columns';
import type { Filled } from './filling';

/** What a pasted block puts into cells, and how many of its cells have no place. */
export interface Pasted {
  filled: Filled[];
  unfit: number;
}

/**
 * Lays a block over the cells from one on, to the right and down. Labels above it are no answers, and an empty cell leaves what is there. What is not asked of
 * one is put in all the same: an answer beside it may make it asked.
 */
export function laidOver(
  block: string[][],
  units: { id: string }[],
  columns: Column[],
  askedOf: (unit: string, field: string) => Asked | undefined,
): Pasted {
  const headed = block[0]!.every((text, i) => text.trim() !== '' && text.trim() === columns[i]?.asked.label);
  const filled: Filled[] = [];
  let unfit = 0;
  (headed ? block.slice(1) : block).forEach((cells, down) =>
    cells.forEach((text, across) => {
      if (text.trim() === '') return;
      const [unit, column] = [units[down], columns[across]];
      const answer = unit && column && answerFrom(text, askedOf(unit.id, column.field) ?? column.asked);
      if (answer === undefined) unfit++;
      else filled.push({ unit: unit!.id, field: column!.field, answer });
    }),
  );
  return { filled, unfit };
}
