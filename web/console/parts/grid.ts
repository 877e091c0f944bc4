import { nextTick, watch } from 'vue';

const steps: Record<string, [row: number, column: number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** A cell of a grid that is worked from the keyboard. */
export interface Cell {
  row: number;
  column: number;
}

/** The cell that an arrow key leads to, inside a grid of so many rows and columns; undefined for another key. */
export function cellAfter(key: string, from: Cell, rows: number, columns: number): Cell | undefined {
  const step = steps[key];
  const within = (value: number, count: number) => Math.min(Math.max(value, 0), count - 1);
  return step && { row: within(from.row + step[0], rows), column: within(from.column + step[1], columns) };
}

/** Puts the focus on the one cell of a grid that the tab key reaches. */
export function focusCell(grid: HTMLElement | null): void {
  grid?.querySelector<HTMLElement>('[tabindex="0"]')?.focus();
}

/** Brings the row of a table that is chosen, or new, into sight; what is in sight already does not move. */
export function keepChosenInSight(chosen: () => string | undefined, table: () => HTMLTableElement | null): void {
  watch(
    chosen,
    async () => {
      await nextTick();
      const row = table()?.querySelector('tr.selected, tr.section:has(.chosen)');
      const head = table()?.tHead;
      if (row) bringIntoSight(row, row.closest('.scroll')!, head && getComputedStyle(head).position === 'sticky' ? head.offsetHeight : 0);
    },
    { immediate: true },
  );
}

// Scrolls a list so far that a row of it is seen, below its heading, and nothing else: the page stays where it is.
function bringIntoSight(row: Element, list: Element, heading: number): void {
  const [top, bottom] = [
    row.getBoundingClientRect().top - list.getBoundingClientRect().top - heading,
    row.getBoundingClientRect().bottom - list.getBoundingClientRect().top - list.clientHeight,
  ];
  if (top < 0) list.scrollTop += top;
  else if (bottom > 0) list.scrollTop += bottom;
}
