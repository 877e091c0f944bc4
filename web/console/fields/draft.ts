import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, nextTick, ref, shallowRef, type Ref } from 'vue';
import { api, ApiError, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { withUnderway, type Underway } from './underway';

export type Draft = Schemas['DraftView'];
export type DraftField = Schemas['FieldView'];
export type DraftSection = Schemas['SectionItemView'];
export type DraftStep = Schemas['CustomStepView'];
export type DraftDestination = Schemas['DestinationView'];
export type Level = Schemas['Level'];

const KEY = ['draft'];

/** What was refused of the last change, and of which setting. */
const refused = ref<{ field: string; setting: string; sentence: string }>();
/** What was just done, for the status line. */
const done = ref('');
/** Changes go one after the other: each needs the revision that the last one gave. */
let queue: Promise<unknown> = Promise.resolve();
/** How many of them have not arrived yet. */
let waiting = 0;

// What was typed a moment ago would be lost.
window.addEventListener('beforeunload', (event) => waiting && event.preventDefault());

/** What was changed and has not arrived yet. */
const underway = shallowRef<Underway[]>([]);

/** What a level is called in a sentence: "once for every seat". */
export const levelWords: Record<Level, string> = { order: 'every order', line: 'every line', unit: 'each one of every line' };

/** The products that are at hand beside those that come with the draft: of a large catalogue only what is looked for does. */
const lookedFor = shallowRef<{ find: string; product: string[] }>({ find: '', product: [] });
let soon = 0;

// The revision of what the draft does not have.
const NOWHERE = 0;

/** Waits until every change has arrived and the page was drawn as the draft is then: what is asked for may be gone by that. */
export async function settled(): Promise<void> {
  while (waiting) await queue;
  await nextTick();
}

/** The draft of the register, and the changes that can be made to it. Every change is saved at once. */
export function useDraft(enabled: Ref<boolean> = ref(true)) {
  const client = useQueryClient();
  // Hundreds of fields, of which only the whole is ever replaced: watched in depth, each look at them would cost more than the drawing.
  const query = useQuery({
    queryKey: KEY,
    queryFn: () => ask(api.GET('/api/console/v1/draft', { params: { query: lookedFor.value } })),
    enabled,
    shallow: true,
  });
  const draft = computed(() => query.data.value && withUnderway(query.data.value, underway.value));
  const refresh = () => client.invalidateQueries({ queryKey: KEY });

  const hasAll = computed(() => !draft.value || draft.value.products.length === draft.value.product_count);

  /** Looks for products by a word in their names or codes, where not all are at hand; those that were at hand before stay so. */
  function lookFor(word: string, chosen: string[] = []): void {
    const find = word.trim();
    const product = [...new Set([...lookedFor.value.product, ...chosen])];
    if (hasAll.value || (find.length < 2 && product.length === lookedFor.value.product.length)) return;
    window.clearTimeout(soon);
    soon = window.setTimeout(() => {
      lookedFor.value = { find: find.length < 2 ? lookedFor.value.find : find, product };
      void refresh();
    }, 250);
  }

  function revisionOf(key: string): number | undefined {
    const now = client.getQueryData<Draft>(KEY);
    return (
      now?.fields.find((f) => f.field.key === key) ??
      now?.sections.find((s) => s.section.key === key) ??
      now?.own_steps.find((s) => s.step.key === key) ??
      now?.destinations.find((d) => d.key === key) ??
      (key === 'item-codes' ? now?.codes : key === 'own-sentences' && now ? { revision: now.sentences_revision } : undefined)
    )?.revision;
  }

  function inTurn<T>(work: () => Promise<T>): Promise<T> {
    // What was said is of the change before.
    done.value = '';
    waiting++;
    const next = queue.then(work, work).finally(() => waiting--);
    queue = next.catch(() => undefined);
    return next;
  }

  /** Does something to what has a key, and says in the clause what was refused. */
  function attempt(
    key: string,
    setting: string,
    work: (ifMatch: string) => Promise<unknown>,
    said: string,
    otherwise?: number,
  ): Promise<boolean> {
    return inTurn(async () => {
      const revision = revisionOf(key) ?? otherwise;
      if (revision === undefined) return false;
      try {
        await work(`"${revision}"`);
        refused.value = undefined;
        done.value = said;
        return true;
      } catch (error) {
        refused.value = {
          field: key,
          setting: (error instanceof ApiError && error.problem.setting) || setting,
          sentence: sentenceOf(error),
        };
        return false;
      } finally {
        await refresh();
      }
    });
  }

  /** Says of a setting what it cannot be, without asking. */
  const refuse = (field: string, setting: string, sentence: string) => (refused.value = { field, setting, sentence });

  /** Changes one setting of a field, section, step or destination; "position" moves it before another of its kind. */
  async function change(key: string, setting: string, value: unknown): Promise<boolean> {
    const made = { key, setting, value };
    underway.value = [...underway.value, made];
    try {
      return await attempt(
        key,
        setting,
        (ifMatch) =>
          ask(
            api.PATCH('/api/console/v1/draft/items/{key}', {
              params: { path: { key }, header: { 'If-Match': ifMatch } },
              body: { setting, value },
            }),
          ),
        'Saved.',
      );
    } finally {
      underway.value = underway.value.filter((u) => u !== made);
    }
  }

  /** Sets something of a product, which is so at once and no matter of the draft. */
  const changeProduct = (code: string, body: Schemas['ProductChange']) =>
    attempt(code, '', () => ask(api.PATCH('/api/console/v1/products/{code}', { params: { path: { code } }, body })), 'Saved.', NOWHERE);

  /** Takes something out of the draft. */
  const remove = (key: string) =>
    attempt(
      key,
      '',
      (ifMatch) => ask(api.DELETE('/api/console/v1/draft/items/{key}', { params: { path: { key }, header: { 'If-Match': ifMatch } } })),
      'Taken out. Ctrl+Z puts it back.',
    );

  /** Puts something back to what is in force; what is new goes, what was taken out comes back. */
  const putBack = (key: string) =>
    attempt(
      key,
      '',
      (ifMatch) =>
        ask(api.POST('/api/console/v1/draft/items/{key}/as-in-force', { params: { path: { key }, header: { 'If-Match': ifMatch } } })),
      'It is as the shop has it. Ctrl+Z takes that back.',
      NOWHERE,
    );

  /** Puts one clause of what differs back to what is in force. */
  const putClauseBack = (key: string, clause: Schemas['ClauseChange']) =>
    attempt(
      key,
      '',
      (ifMatch) =>
        ask(
          api.POST('/api/console/v1/draft/items/{key}/as-in-force/clause', {
            params: { path: { key }, header: { 'If-Match': ifMatch } },
            body: clause,
          }),
        ),
      'That is as the shop has it. Ctrl+Z takes it back.',
    );

  /** Switches a live field on or off for the shop as it is now, without publishing anything else. */
  const switchLive = (key: string, on: boolean) =>
    attempt(
      key,
      'switched_off',
      () => ask(api.PUT('/api/console/v1/live/fields/{key}', { params: { path: { key } }, body: { on } })),
      on ? 'The shop asks it again.' : 'The shop no longer asks it.',
    );

  /** Adds a field, section or step. What was refused is thrown. */
  function add(what: () => Promise<{ key: string }>, name: string): Promise<string> {
    return inTurn(async () => {
      const { key } = await what();
      await refresh();
      done.value = `“${name}” was added.`;
      return key;
    });
  }

  const addField = (body: Schemas['AddFieldRequest']) => add(() => ask(api.POST('/api/console/v1/draft/fields', { body })), body.label);
  const addSection = (body: Schemas['AddSectionRequest']) =>
    add(() => ask(api.POST('/api/console/v1/draft/sections', { body })), body.heading);
  const addStep = (body: Schemas['AddStepRequest']) => add(() => ask(api.POST('/api/console/v1/draft/steps', { body })), body.name);

  /** Puts a starter set into the draft, and gives the key of what comes first. */
  const addSet = (body: Schemas['AddSetRequest']) =>
    add(
      () => ask(api.POST('/api/console/v1/draft/starter-sets', { body })),
      query.data.value?.starter_sets.find((s) => s.key === body.set)?.name ?? body.set,
    );

  const addDestination = (body: Schemas['AddDestinationRequest']) =>
    add(() => ask(api.POST('/api/console/v1/draft/destinations', { body })), body.name);

  /** Undoes one's own last change. */
  function undo(): Promise<void> {
    return inTurn(async () => {
      try {
        const undone = await ask(api.POST('/api/console/v1/draft/undo'));
        done.value = `Undone: ${undone.field}${undone.setting && `, ${undone.setting}`}.`;
      } catch (error) {
        done.value = sentenceOf(error);
      }
      await refresh();
    });
  }

  return {
    query,
    draft,
    refused,
    done,
    refresh,
    change,
    changeProduct,
    remove,
    putBack,
    putClauseBack,
    switchLive,
    addField,
    addSection,
    addStep,
    addSet,
    addDestination,
    undo,
    hasAll,
    refuse,
    lookFor,
  };
}
