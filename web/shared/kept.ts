import { ref, watch, type Ref } from 'vue';

/** What is being typed under a key, kept in this tab over reload, back button and a lost connection until it is let go. */
export function kept<T>(key: string, initial: () => T): { value: Ref<T>; letGo: () => void } {
  const name = `sexton-typing:${key}`;
  const read = (): T => {
    try {
      const text = sessionStorage.getItem(name);
      return text === null ? initial() : (JSON.parse(text) as T);
    } catch {
      return initial();
    }
  };
  const value = ref(read()) as Ref<T>;
  watch(
    value,
    (now) => {
      try {
        sessionStorage.setItem(name, JSON.stringify(now));
      } catch {
        // A full or forbidden store costs the keeping, not the typing.
      }
    },
    { deep: true, flush: 'sync' },
  );
  return { value, letGo: () => sessionStorage.removeItem(name) };
}
