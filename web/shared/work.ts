import { ref } from 'vue';
import { sentenceOf } from './api/client';

/** One piece of work at a time: whether it is under way, and the sentence of what went wrong with the last one. */
export function useWork() {
  const busy = ref(false);
  const failure = ref('');

  /** Does it; while one is under way another is not begun. Gives what it gave, or nothing when it was refused. */
  async function run<T>(work: () => Promise<T>): Promise<T | undefined> {
    if (busy.value) return undefined;
    busy.value = true;
    failure.value = '';
    try {
      return await work();
    } catch (error) {
      failure.value = sentenceOf(error);
      return undefined;
    } finally {
      busy.value = false;
    }
  }

  return { busy, failure, run };
}
