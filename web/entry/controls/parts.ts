import type { Ref } from 'vue';
import type { Answer, Asked } from '../answers';

/** Whether a name is asked in its parts. */
export const isNameInParts = (asked: Asked): boolean => asked.type === 'person_name' && asked.settings.parts !== 'whole';

/**
 * Reading and setting an answer of named parts.
 * @param whole the part that a text stands in which was given before there were parts
 */
export function usePartsOf(model: Ref<Answer | undefined>, whole?: string) {
  const parts = (): Record<string, string> =>
    typeof model.value === 'object' && !Array.isArray(model.value)
      ? model.value
      : whole && typeof model.value === 'string'
        ? { [whole]: model.value }
        : {};
  return {
    partOf: (name: string) => parts()[name] ?? '',
    /** Sets several parts at once. */
    setParts: (some: Record<string, string>) => (model.value = { ...parts(), ...some }),
    setPart: (name: string, event: Event) =>
      (model.value = { ...parts(), [name]: (event.target as HTMLInputElement | HTMLSelectElement).value }),
  };
}
