/** Moves the focus in a table of controls as a spreadsheet does. Cells carry data-row and data-column. */

const ALL = 'input, select, button, [tabindex]';

const controlIn = (cell: Element | null): HTMLElement | null => cell?.querySelector<HTMLElement>(ALL) ?? null;

/** Puts the focus into a cell, with what is typed there chosen, so that typing takes its place. False where there is none. */
export function focusCell(table: HTMLElement, row: number, column: number): boolean {
  const control = controlIn(table.querySelector(`[data-row="${row}"][data-column="${column}"]`));
  if (!control) return false;
  control.focus();
  if (control instanceof HTMLInputElement && control.type === 'text') control.select();
  return true;
}

// Left and right move within a text until its end; a text that is chosen as a whole is left at once.
function isAtEnd(control: Element, end: 'start' | 'end'): boolean {
  if (!(control instanceof HTMLInputElement) || control.type !== 'text') return true;
  const { selectionStart: from, selectionEnd: to, value } = control;
  if (from === 0 && to === value.length) return true;
  return from === to && from === (end === 'start' ? 0 : value.length);
}

/** Handles a key that was pressed in a cell; true when it moved the focus. */
export function moveBy(event: KeyboardEvent, table: HTMLElement): boolean {
  if (event.altKey || event.ctrlKey || event.metaKey || event.isComposing) return false;
  const cell = (event.target as Element).closest<HTMLElement>('[data-row]');
  if (!cell) return false;
  const [row, column] = [Number(cell.dataset.row), Number(cell.dataset.column)];
  const control = event.target as Element;
  const opens = control instanceof HTMLButtonElement;
  switch (event.key) {
    case 'ArrowUp':
      return focusCell(table, row - 1, column);
    case 'ArrowDown':
      return focusCell(table, row + 1, column);
    case 'ArrowLeft':
      return isAtEnd(control, 'start') && focusCell(table, row, column - 1);
    case 'ArrowRight':
      return isAtEnd(control, 'end') && focusCell(table, row, column + 1);
    case 'Enter':
      return !opens && (focusCell(table, row + (event.shiftKey ? -1 : 1), column) || true);
    default:
      return false;
  }
}
