<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import { api, ask, sentenceOf } from '../../shared/api/client';
import { faceNamed } from '../parts/faces';
import MarkSign from '../parts/MarkSign.vue';
import { wordsFor } from '../parts/signs';
import { inFull, timeOfDay } from '../parts/when';
import ArtefactView from './ArtefactView.vue';

// Somebody decides here whether to believe a mark, and what to do about it: given, expected, found, the artefact, every try.
const { number, slotId, destination } = defineProps<{ number: number; slotId: string; destination: string }>();
const emit = defineEmits<{ close: []; sent: []; pick: [slot: string] }>();

const failure = ref('');
const query = useQuery({
  queryKey: ['evidence', () => number, () => slotId, () => destination],
  queryFn: () =>
    ask(
      api.GET('/api/console/v1/orders/{number}/evidence/{destination}', {
        params: { path: { number, destination }, query: { slot: slotId } },
      }),
    ),
  refetchInterval: 3_000,
});
const evidence = computed(() => query.data.value);
const expectation = computed(() => {
  switch (evidence.value?.mark.expectation) {
    case 'verbatim':
      return 'the same, to the character';
    case 'adapted':
      return 'fitted to what it takes, as agreed:';
    case 'left_empty':
      return 'nothing: it was left empty';
    default:
      return evidence.value?.left_out ? `nothing: it was left out. ${evidence.value.left_out}` : 'nothing: it does not go there';
  }
});

async function again(): Promise<void> {
  failure.value = '';
  try {
    await ask(api.POST('/api/console/v1/orders/{number}/deliveries/{destination}/again', { params: { path: { number, destination } } }));
    emit('sent');
  } catch (error) {
    failure.value = sentenceOf(error);
  }
  await query.refetch();
}
</script>

<template>
  <section class="evidence" aria-label="Evidence" @keydown.esc="emit('close')">
    <p v-if="query.error.value" class="call" role="alert">{{ sentenceOf(query.error.value) }}</p>
    <template v-if="evidence">
      <div>
        <h2>{{ evidence.label }}, in {{ evidence.destination }}</h2>
        <dl>
          <dt>Given</dt>
          <dd>
            <b>{{ evidence.given || '–' }}</b>
          </dd>
          <dt>Expected</dt>
          <dd>
            {{ expectation }}
            <template v-if="evidence.adapted"
              ><b>{{ evidence.adapted.text }}</b
              ><template v-if="evidence.adapted.rest !== null">
                and in its note <b>{{ evidence.adapted.rest }}</b></template
              ></template
            >
          </dd>
          <template v-for="found in evidence.found" :key="found.part">
            <dt>Found</dt>
            <dd :class="{ call: found.difference }">
              <b>{{ found.text ?? 'nothing' }}</b> <span class="soft small">{{ faceNamed(found.part, evidence.artefact) }}</span>
              <span v-if="found.difference"><br />{{ found.difference }}</span>
            </dd>
          </template>
          <dt>State</dt>
          <dd class="sign"><MarkSign :sign="evidence.mark.sign" /> {{ wordsFor(evidence.mark) }}</dd>
        </dl>
        <p v-if="evidence.can_send_again"><Button class="button main" @click="again">Send it now</Button></p>
        <p v-if="failure" class="call" role="alert">{{ failure }}</p>
      </div>
      <ArtefactView :artefact="evidence.artefact" :slot-id="slotId" @pick="emit('pick', $event)" />
      <div>
        <h2>What happened <button class="act close" @click="emit('close')">Close</button></h2>
        <ol>
          <li v-for="(happening, i) in evidence.happenings" :key="i">
            <span class="soft" :title="inFull(happening.at)">{{ timeOfDay(happening.at) }}</span> {{ happening.what }}
          </li>
          <li v-if="evidence.next_try_at && evidence.mark.delivery !== 'sent'">
            <span class="soft">{{ timeOfDay(evidence.next_try_at) }}</span> next try
          </li>
          <li v-if="evidence.happenings.length === 0 && !evidence.next_try_at" class="soft">Nothing yet.</li>
        </ol>
      </div>
    </template>
  </section>
</template>

<style scoped>
.evidence {
  background: var(--sheet);
  border-top: 2px solid var(--ink);
  display: grid;
  grid-template-columns: 330px 1fr 340px;
  height: 236px;
}
.evidence > div {
  padding: 11px var(--edge);
  border-right: 1px solid var(--rule);
  overflow: auto;
  min-height: 0;
}
.evidence > div:last-child {
  border: 0;
}
h2 {
  font-size: 15px;
  margin-bottom: 6px;
}
dl {
  display: grid;
  grid-template-columns: 66px 1fr;
  gap: 3px 8px;
  margin: 0;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.sign {
  display: flex;
  gap: 5px;
  align-items: center;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 74px 1fr;
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
  overflow-wrap: anywhere;
}
.close {
  float: right;
  font: 13px var(--work);
}
@media (max-width: 1000px) {
  .evidence {
    grid-template-columns: 1fr;
    height: 50vh;
    overflow: auto;
  }
}
</style>
