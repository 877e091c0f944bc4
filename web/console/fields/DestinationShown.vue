<script setup lang="ts">
import Select from 'primevue/select';
import { computed, onUnmounted, ref, watch } from 'vue';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { latest } from '../../shared/latest';
import { useWork } from '../../shared/work';
import ArtefactView from '../orders/ArtefactView.vue';
import { settled, useDraft, type Draft, type DraftDestination } from './draft';
import { codesRevision } from './itemCodes';
import { spoken } from '../../shared/wording';
import { language } from './standIn';
import SpokenIn from './SpokenIn.vue';
import WordInput from './WordInput.vue';

// The manager sees here the very bytes that a destination of the draft would get, and what would prove that each answer is in them, before anything is
// published: of a stand-in order, or of one that was placed.
const { item, draft, beside } = defineProps<{ item: DraftDestination; draft: Draft; beside: boolean }>();
const emit = defineEmits<{ turn: [] }>();

const EXAMPLES = 'examples';
const LONGEST = 'longest';
const PLACED = 'placed';
const kinds = [
  { key: EXAMPLES, name: 'a stand-in order' },
  { key: LONGEST, name: 'a stand-in order with the longest answers' },
  { key: PLACED, name: 'order' },
];
const kind = ref(EXAMPLES);
const order = ref('');
const part = ref(0);
const slot = ref('');
const shown = ref<Schemas['SentPreview']>();
const failure = ref('');

// What most of that goes there is asked of, so that there is something to see.
const going = computed(() => draft.fields.filter((f) => f.field.goes_to?.includes(item.key)));
const likely = computed(() => {
  const count = (code: string) => going.value.filter((f) => f.field.level !== 'order' && f.asks.includes(code)).length;
  return draft.products.toSorted((a, b) => count(b.code) - count(a.code))[0]!.code;
});
const chosen = ref('');
const { lookFor } = useDraft();
const product = computed(() => draft.products.find((p) => p.code === (chosen.value || likely.value))!);

/** Whether any of it stands there otherwise than it was given. */
const fitted = computed(() => shown.value?.slots.some((s) => s.given !== null));

const asked = computed(() => ({
  params: { path: { key: item.key } },
  body: {
    cart: {
      language: language.value,
      group: draft.groups[0]?.key ?? '',
      country: '',
      answers: {},
      lines: [
        {
          id: 'preview',
          product_code: product.value.code,
          variant_code: product.value.variants[0]?.key ?? null,
          quantity: product.value.unit_name ? 2 : 1,
          answers: {},
          units: [],
        },
      ],
    },
    longest: kind.value === LONGEST,
    order: kind.value === PLACED ? Number(order.value) : null,
    part: part.value,
    slot: slot.value || null,
  },
}));

const look = latest(
  // Sheets are printed for it: of what nobody waits for any more none are.
  (_, signal) => ask(api.POST('/api/console/v1/draft/destinations/{key}/preview', { ...asked.value, signal })),
  (result) => {
    shown.value = result;
    failure.value = '';
    if (!result.slots.some((s) => s.slot === slot.value)) slot.value = result.slots[0]?.slot ?? '';
  },
  (error) => ((shown.value = undefined), (failure.value = sentenceOf(error))),
  150,
  settled,
);

watch(
  [() => draft, () => item.key, kind, order, product, language, part, slot, codesRevision],
  () => {
    if (kind.value !== PLACED || Number(order.value)) look.soon(undefined);
    else shown.value = undefined;
  },
  { immediate: true },
);
watch([() => item.key, kind, order, product], () => (part.value = 0));
const trial = ref<Schemas['TrialView']>();
const { busy, failure: refused, run } = useWork();
const hasTrials = computed(() =>
  draft.destination_kinds
    .find((k) => k.key === item.destination.kind)
    ?.settings.some((s) => s.for_trials && item.destination.settings?.[s.name] !== undefined),
);
watch([() => item.key, kind, product, language, part], () => ((trial.value = undefined), (refused.value = '')));

async function send(): Promise<void> {
  trial.value = await run(() => ask(api.POST('/api/console/v1/draft/destinations/{key}/trial', asked.value)));
}

// What was taken out is not asked for.
onUnmounted(look.stop);
</script>

<template>
  <section class="shown" :class="{ beside }" aria-label="What it gets">
    <p class="small soft head">
      What it gets for
      <Select
        v-model="kind"
        class="words"
        :options="kinds"
        option-label="name"
        option-value="key"
        aria-label="Of which order it is shown"
      />
      <WordInput
        v-if="kind === PLACED"
        :value="order"
        label="Number of the order that is shown"
        placeholder="its number"
        numeric
        @save="order = $event"
      />
      <template v-else>
        of
        <Select
          class="words"
          :model-value="product.code"
          :options="draft.products"
          option-label="name"
          option-value="code"
          :filter="draft.product_count > 12"
          @filter="lookFor($event.value)"
          aria-label="Product of the stand-in order"
          @update:model-value="((chosen = $event), lookFor('', [$event]))"
        /><template v-if="spoken().languages.length > 1"> in <SpokenIn label="Language of the stand-in order" /> </template>
      </template>
      <template v-if="shown && shown.parts > 1">
        <button class="act" :disabled="part === 0" aria-label="The one before" @click="part--">←</button>
        {{ shown.part + 1 }} of {{ shown.parts }}
        <button class="act" :disabled="part >= shown.parts - 1" aria-label="The next one" @click="part++">→</button>
      </template>
      <template v-if="shown?.called">· {{ shown.called }}</template>
      <button class="act turn" @click="emit('turn')">{{ beside ? 'back to the list' : 'see it larger' }}</button>
    </p>
    <p v-if="failure" class="call" role="alert">{{ failure }}</p>
    <p v-if="hasTrials && kind !== PLACED && shown?.artefact.length" class="small head">
      <button class="act" :disabled="busy" @click="send()">send a trial</button>
      <span v-if="trial" role="status" :class="{ call: !trial.taken || trial.differs.length }"
        >{{ trial.detail
        }}<template v-if="trial.taken">
          {{
            trial.differs.length ? `Not there as sent: ${trial.differs.join(', ')}.` : `All ${trial.agreed} answers stand there as sent.`
          }}</template
        ></span
      >
      <span v-if="refused" class="call" role="alert">{{ refused }}</span>
    </p>
    <p v-if="shown?.stops" class="call">{{ shown.stops }}</p>
    <div v-if="shown?.artefact.length" class="panes" :class="{ tall: shown.artefact[0]!.form === 'sheets' }">
      <ArtefactView :artefact="shown.artefact" :slot-id="slot" title="What it would get" @pick="slot = $event" />
      <div class="proof">
        <h2>What would prove it</h2>
        <p class="soft small">
          {{
            !shown.slots.length
              ? 'No answer goes there.'
              : fitted
                ? 'To the character, but for what is fitted:'
                : 'Each of these, to the character:'
          }}
        </p>
        <ul>
          <li v-for="s in shown.slots" :key="s.slot">
            <button class="act plain" :aria-pressed="s.slot === slot" @click="slot = s.slot">{{ s.name }}</button>
            <span v-if="s.given !== null" class="small">fitted: {{ s.expected }}</span>
          </li>
        </ul>
      </div>
    </div>
  </section>
</template>

<style scoped>
.shown {
  border-top: 1px solid var(--rule-strong);
  background: var(--paper);
  padding: 4px var(--edge) 10px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 6px;
  align-items: baseline;
  margin: 0 0 4px;
}
.panes {
  display: grid;
  grid-template-columns: minmax(0, 1fr) var(--proof-width, 150px);
  gap: 12px;
  height: 232px;
}
.tall {
  height: clamp(232px, 42vh, 460px);
}
.panes > * {
  min-height: 0;
}
.turn {
  margin-left: auto;
}
.beside {
  --sheet-width: 900px;
  --proof-width: 190px;
  grid-column: 2;
  grid-row: 1 / -1;
  display: flex;
  flex-direction: column;
  min-height: 0;
  border-top: 0;
  border-left: 1px solid var(--rule-strong);
}
.beside .panes {
  flex: 1;
  height: auto;
  min-height: 0;
}
@media (max-width: 1100px) {
  .beside {
    grid-column: 1;
    grid-row: auto;
    border-left: 0;
  }
  .beside .panes {
    flex: none;
    height: 80vh;
  }
}
.proof {
  overflow: auto;
}
h2 {
  font-size: 15px;
  margin-bottom: 2px;
}
.proof p {
  margin: 0 0 2px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  border-bottom: 1px solid var(--rule);
  padding: 2px 0;
}
.plain {
  display: block;
  text-align: left;
  text-decoration: none;
  min-height: 24px;
}
.plain[aria-pressed='true'] {
  font-weight: 650;
}
li span {
  overflow-wrap: anywhere;
}
</style>
