import { ref } from 'vue';
import { api, ask, sentenceOf } from '../../shared/api/client';
import { latest } from '../../shared/latest';

/** The key of something new: proposed from what it is called, until somebody types another. */
export function useProposedKey(fail: (sentence: string) => void) {
  const key = ref('');
  const isTyped = ref(false);
  const proposal = latest(
    (label: string) => ask(api.GET('/api/console/v1/draft/proposed-key', { params: { query: { label } } })),
    (proposed) => {
      if (!isTyped.value) key.value = proposed.key;
    },
    (error) => fail(sentenceOf(error)),
  );

  return {
    key,
    /** Proposes one in a moment. */
    propose: (label: string) => {
      if (!isTyped.value && label.trim()) proposal.soon(label);
    },
    /** The key of the very label: somebody who types fast is not refused for a key that was still on its way. */
    settle: async (label: string) => {
      if (!isTyped.value) await proposal.now(label);
    },
    /** Takes what somebody typed. */
    type: (typed: string) => {
      key.value = typed;
      isTyped.value = true;
    },
  };
}
