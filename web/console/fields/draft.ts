import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref, type Ref } from 'vue';
import { api, ApiError, ask, sentenceOf, type Schemas } from '../../shared/api/client';

export type Draft = Schemas['DraftView'];
export type DraftField = Schemas['FieldView'];

const KEY = ['draft'];

/** What was refused of the last change, and of which setting. */
const refused = ref<{ field: string; setting: string; sentence: string }>();
/** What was just done, for the status line. */
const done = ref('');
/** Changes go one after the other: each needs the revision that the last one gave. */
let queue: Promise<unknown> = Promise.resolve();

/** The draft of the register, and the changes that can be made to it. Every change is saved at once. */
export function useDraft(enabled: Ref<boolean> = ref(true)) {
  const client = useQueryClient();
  const query = useQuery({ queryKey: KEY, queryFn: () => ask(api.GET('/api/console/v1/draft')), enabled });
  const draft = computed(() => query.data.value);

  const findField = (key: string) => client.getQueryData<Draft>(KEY)?.fields.find((f) => f.field.key === key);

  function put(field: DraftField): void {
    client.setQueryData<Draft>(KEY, (old) => old && { ...old, fields: old.fields.map((f) => (f.field.key === field.field.key ? { ...field, live_since: f.live_since } : f)) });
  }

  function inTurn<T>(work: () => Promise<T>): Promise<T> {
    const next = queue.then(work, work);
    queue = next.catch(() => undefined);
    return next;
  }

  /** Changes one setting of a field. */
  function change(key: string, setting: string, value: unknown): Promise<boolean> {
    return inTurn(async () => {
      const field = findField(key);
      if (!field) return false;
      try {
        put(
          await ask(
            api.PATCH('/api/console/v1/draft/fields/{key}', {
              params: { path: { key }, header: { 'If-Match': `"${field.revision}"` } },
              body: { setting, value },
            }),
          ),
        );
        refused.value = undefined;
        done.value = 'Saved.';
        return true;
      } catch (error) {
        refused.value = { field: key, setting: (error instanceof ApiError && error.problem.setting) || setting, sentence: sentenceOf(error) };
        return false;
      } finally {
        await client.invalidateQueries({ queryKey: KEY });
      }
    });
  }

  /** Adds a field. */
  function add(request: Schemas['AddFieldRequest']): Promise<DraftField> {
    return inTurn(async () => {
      const field = await ask(api.POST('/api/console/v1/draft/fields', { body: request }));
      await client.invalidateQueries({ queryKey: KEY });
      done.value = `“${request.label}” was added.`;
      return field;
    });
  }

  /** Takes a field out that was never published. */
  function remove(key: string): Promise<void> {
    return inTurn(async () => {
      const field = findField(key);
      if (!field) return;
      try {
        await ask(api.DELETE('/api/console/v1/draft/fields/{key}', { params: { path: { key }, header: { 'If-Match': `"${field.revision}"` } } }));
        done.value = 'Taken out. Ctrl+Z puts it back.';
      } catch (error) {
        refused.value = { field: key, setting: '', sentence: sentenceOf(error) };
      }
      await client.invalidateQueries({ queryKey: KEY });
    });
  }

  /** Undoes one's own last change. */
  function undo(): Promise<void> {
    return inTurn(async () => {
      try {
        const undone = await ask(api.POST('/api/console/v1/draft/undo'));
        done.value = `Undone: ${undone.field}${undone.setting && `, ${undone.setting}`}.`;
      } catch (error) {
        done.value = sentenceOf(error);
      }
      await client.invalidateQueries({ queryKey: KEY });
    });
  }

  return { query, draft, refused, done, change, add, remove, undo };
}
