import { onScopeDispose, ref, type Ref } from 'vue';

/** Whether the window is as narrow as a telephone: where styles put one thing under another at 48rem. */
export function useNarrow(): Readonly<Ref<boolean>> {
  const query = window.matchMedia('(max-width: 48rem)');
  const narrow = ref(query.matches);
  const tell = () => (narrow.value = query.matches);
  query.addEventListener('change', tell);
  onScopeDispose(() => query.removeEventListener('change', tell));
  return narrow;
}
