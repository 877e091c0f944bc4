import { ref, watch } from 'vue';

const KEPT = 'sexton:single-keys';

/** Whether single characters do something: whoever speaks to the machine, or brushes keys, switches them off (WCAG 2.2, 2.1.4). */
export const singleKeys = ref(localStorage.getItem(KEPT) !== 'off');

watch(singleKeys, (on) => (on ? localStorage.removeItem(KEPT) : localStorage.setItem(KEPT, 'off')));

/** The single character that was pressed while a list, table or map has the focus; undefined for anything else. */
export function singleKeyOf(event: KeyboardEvent): string | undefined {
  const target = event.target as HTMLElement;
  const isPlain = event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey;
  if (!singleKeys.value || !isPlain || target.closest('input, textarea, select, [contenteditable], [role="combobox"], [role="listbox"]'))
    return undefined;
  return target.closest('table, [role="grid"], ul, ol') ? event.key : undefined;
}
