<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import ClauseNotes from './ClauseNotes.vue';
import type { Condition } from './condition';
import ConditionClause from './ConditionClause.vue';
import type { Draft, DraftSection, Level } from './draft';
import { levelWords, useDraft } from './draft';
import { explained } from './standIn';
import RouteConditions from './RouteConditions.vue';
import ScopeChoice from './ScopeChoice.vue';
import WhatFollows from '../parts/WhatFollows.vue';
import WordInput from './WordInput.vue';
import { readersOf, toldOf } from './follows';

const { item, draft } = defineProps<{ item: DraftSection; draft: Draft }>();
const emit = defineEmits<{ open: [key: string]; add: [section: string] }>();
const { change, remove, putBack, refused } = useDraft();

const s = computed(() => item.section);
const key = computed(() => s.value.key);
const fields = computed(() => draft.fields.filter((f) => f.field.section === key.value));
const steps = computed(() => draft.steps.map((x) => ({ key: x.key, name: x.name.toLowerCase() })));
const destinations = computed(() => draft.destinations.filter((d) => d.levels.includes(s.value.level)));
const opening = ref(false);
// What follows is said before it is done.
const retiring = ref(false);
const follows = computed(
  () =>
    `From the next version on none of its ${fields.value.length} fields is asked again, for good. Answers of past orders stay, and go where they went.` +
    toldOf([key.value, ...fields.value.map((f) => f.field.key)].flatMap((k) => readersOf(draft, k))),
);
const set = (setting: string, value: unknown) => void change(key.value, setting, value);

// A section stands where its first field stands, so it moves with all of them.
async function move(by: -1 | 1): Promise<void> {
  const others = draft.fields
    .filter((f) => f.field.section !== key.value && f.field.step === s.value.step && f.field.level === s.value.level)
    .map((f) => f.field.key);
  const all = draft.fields.map((f) => f.field.key);
  const first = all.indexOf(fields.value[0]!.field.key);
  const before = others.filter((k) => all.indexOf(k) < first);
  const target = by < 0 ? before.at(-1) : (others[before.length + 1] ?? null);
  if (by < 0 && !target) return;
  for (const field of fields.value) await change(field.field.key, 'position', target ?? null);
}
</script>

<template>
  <section :aria-label="`The section ${key}`">
    <header class="paragraph-head">
      <h2>
        {{ s.heading.en }} <span class="mono soft">{{ key }}</span>
      </h2>
      <p class="small soft">
        A section · <template v-if="s.retired">retired, so that nothing in it is asked again · </template
        ><template v-if="item.live_since">in force since version {{ item.live_since }}</template
        ><template v-else>new in this draft</template> · {{ fields.length }} {{ fields.length === 1 ? 'field' : 'fields' }}
        <template v-if="item.live_since">
          <template v-if="item.changed"> · <button class="act" @click="putBack(key)">put it back as the shop has it</button></template>
          ·
          <button class="act" @click="s.retired ? set('retired', false) : (retiring = true)">
            {{ s.retired ? 'bring it back' : 'retire it' }}
          </button></template
        >
        <template v-else-if="!fields.length"> · <button class="act" @click="remove(key)">take it out</button></template>
      </p>
      <WhatFollows
        v-if="retiring"
        :sentence="follows"
        act="retire it"
        @do="((retiring = false), set('retired', true))"
        @leave="retiring = false"
      />
      <p v-if="refused?.field === key && ['', 'retired'].includes(refused.setting)" class="call" role="alert">{{ refused.sentence }}</p>
    </header>
    <dl class="clauses">
      <dt>Says</dt>
      <dd>
        “<WordInput :value="s.heading.en ?? ''" label="Heading" @save="set('heading.en', $event)" />”, and under it “<WordInput
          :value="s.text?.en ?? ''"
          label="Words under the heading"
          placeholder="nothing"
          @save="set('text.en', $event)"
        />”
        <ClauseNotes :of="key" :problems="draft.problems" :settings="['heading', 'text', 'key']" />
      </dd>
      <dt>Opens</dt>
      <dd>
        with the question “<WordInput
          :value="s.opening?.en ?? ''"
          label="Opening question"
          placeholder="none"
          @save="set('opening.en', $event)"
        />”<template v-if="s.opening?.en"
          >; the answer goes to
          <template v-for="destination in destinations" :key="destination.key">
            <button
              class="act destination"
              role="switch"
              :aria-checked="s.goes_to?.includes(destination.key)"
              @click="set(`goes_to.${destination.key}`, !s.goes_to?.includes(destination.key))"
            >
              {{ destination.phrase }}</button>{{ ' ' }}
          </template>
          <RouteConditions
            :goes-to="s.goes_to"
            :when="s.goes_to_when"
            :draft="draft"
            :level="s.level as Level"
            :sentences="item.sentences"
            :of-key="key"
            @set="(destination, condition) => set(`goes_to_when.${destination}`, condition)"
          />
        </template>
        <ClauseNotes :of="key" :problems="draft.problems" :settings="['opening', 'goes_to', 'goes_to_when']" />
      </dd>
      <dt>Of whom</dt>
      <dd>
        once for
        <Select
          v-if="!fields.length"
          class="words"
          :model-value="s.level"
          :options="Object.entries(levelWords).map(([k, name]) => ({ key: k, name }))"
          option-label="name"
          option-value="key"
          aria-label="How often it is asked"
          @update:model-value="set('level', $event)"
        />
        <template v-else>{{ levelWords[s.level] }}</template>
        of <ScopeChoice :model-value="s.asked_of ?? { all: true }" :draft="draft" @update:model-value="set('asked_of', $event)" />, at
        <Select
          class="words"
          :model-value="s.step"
          :options="steps"
          option-label="name"
          option-value="key"
          aria-label="At which step"
          @update:model-value="set('step', $event)"
        />
        <div v-if="fields.length" class="small">
          <button class="act" @click="move(-1)">move up</button>{{ ' ' }}<button class="act" @click="move(1)">move down</button>
        </div>
        <ClauseNotes :of="key" :problems="draft.problems" :settings="['asked_of', 'step', 'level']" />
      </dd>
      <dt>When</dt>
      <dd>
        <Select
          v-if="!s.when"
          class="words"
          :model-value="opening ? 'when …' : 'always'"
          :options="['always', 'when …']"
          aria-label="When it is asked"
          @update:model-value="opening = $event !== 'always'"
        />
        <ConditionClause
          v-if="s.when || opening"
          :model-value="s.when as Condition | null"
          :draft="draft"
          :level="s.level as Level"
          :sentence="item.sentences.when"
          :explained="explained?.when"
          :of-key="key"
          @update:model-value="((opening = false), set('when', $event ?? null))"
        />
        <ClauseNotes :of="key" :problems="draft.problems" :settings="['when']" />
      </dd>
      <dt>Holds</dt>
      <dd>
        <template v-for="(field, i) in fields" :key="field.field.key"
          ><template v-if="i">, </template
          ><button class="act" @click="emit('open', field.field.key)">{{ field.field.label.en }}</button></template
        >
        <template v-if="!fields.length">nothing yet</template>
        <div><button class="act" @click="emit('add', key)">add a field to it</button></div>
      </dd>
    </dl>
  </section>
</template>

<style scoped>
.paragraph-head h2 {
  display: flex;
  align-items: baseline;
  gap: 8px;
}
.paragraph-head .mono {
  font-weight: 400;
}
.destination {
  margin-right: 10px;
  text-decoration: none;
  color: var(--ink-soft);
}
.destination[aria-checked='true'] {
  color: var(--ink);
  text-decoration: underline;
  font-weight: 650;
}
</style>
