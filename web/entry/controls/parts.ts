import type { Ref } from 'vue';
import type { Answer } from '../answers';

/** Reading and setting an answer of named parts. */
export function usePartsOf(model: Ref<Answer | undefined>) {
  const parts = (): Record<string, string> => (typeof model.value === 'object' && !Array.isArray(model.value) ? model.value : {});
  return {
    partOf: (name: string) => parts()[name] ?? '',
    /** Sets several parts at once. */
    setParts: (some: Record<string, string>) => (model.value = { ...parts(), ...some }),
    setPart: (name: string, event: Event) =>
      (model.value = { ...parts(), [name]: (event.target as HTMLInputElement | HTMLSelectElement).value }),
  };
}
