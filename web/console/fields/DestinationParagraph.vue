<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref, watch } from 'vue';
import ClauseNotes from './ClauseNotes.vue';
import type { Draft, DraftDestination, DraftField, Level } from './draft';
import { useDraft } from './draft';
import { nameOf } from './groups';
import NamesThere from './NamesThere.vue';
import SettingClause from './SettingClause.vue';
import WordInput from './WordInput.vue';

// The manager decides here which answers go to one destination and what they are called there, and needs to see all of them with their names side by side.
const { item, draft } = defineProps<{ item: DraftDestination; draft: Draft }>();
const emit = defineEmits<{ open: [key: string] }>();
const { change, remove, refused } = useDraft();

const key = computed(() => item.key);
const kind = computed(() => draft.destination_kinds.find((k) => k.key === item.destination.kind));
const canGo = computed(() =>
  draft.fields.filter(
    (f) =>
      !f.field.retired && item.levels.includes(f.field.level as Level) && !draft.types.find((t) => t.key === f.field.type)?.asks_nothing,
  ),
);
const going = computed(() => canGo.value.filter((f) => f.field.goes_to?.includes(key.value)));
const off = computed(() => canGo.value.filter((f) => !f.field.goes_to?.includes(key.value)));
const leftOut = (f: DraftField) => f.left_out.find((l) => l.destination === key.value)?.why;
const out = computed(() => off.value.filter(leftOut));

const settings = computed(() => kind.value?.settings ?? []);
const valueOf = (name: string) => item.destination.settings?.[name] ?? null;
const wanted = ref<string[]>([]);
watch(key, () => (wanted.value = []));
const shown = computed(() => settings.value.filter((s) => valueOf(s.name) !== null || s.default !== null || wanted.value.includes(s.name)));
const offered = computed(() => settings.value.filter((s) => !shown.value.includes(s)));

const set = (setting: string, value: unknown) => void change(key.value, setting, value);
const route = (f: DraftField, on: boolean) => void change(f.field.key, `goes_to.${key.value}`, on);
const isRefused = (setting: string) => refused.value?.field === key.value && refused.value.setting === setting;
</script>

<template>
  <section :aria-label="`The destination ${key}`">
    <header class="paragraph-head">
      <h2>
        {{ item.name }} <span class="mono soft">{{ key }}</span>
      </h2>
      <p class="small soft">
        {{ item.since ? `In force since version ${item.since}${item.changed ? ', changed in this draft' : ''}` : 'New in this draft' }} ·
        {{ going.length === 1 ? '1 field goes' : `${going.length} fields go` }} there
        <template v-if="kind?.can_be_made && !item.since"> · <button class="act" @click="remove(key)">take it out</button></template>
      </p>
      <p v-if="refused?.field === key && refused.setting === ''" class="call" role="alert">{{ refused.sentence }}</p>
    </header>
    <dl class="clauses">
      <template v-if="kind?.can_be_made">
        <dt>Called</dt>
        <dd>
          “<WordInput :value="item.name" label="Name of the destination" :invalid="isRefused('name')" @save="set('name', $event)" />”
          <ClauseNotes :of="key" :problems="draft.problems" :settings="['name']" />
        </dd>
      </template>
      <dt>{{ item.names_answers ? 'Names' : 'Gets' }}</dt>
      <dd>
        <p v-if="!going.length">Nothing goes there yet.</p>
        <ul class="names">
          <li v-for="f in going" :key="f.field.key">
            <button class="act plain" :title="`Open “${nameOf(f)}”`" @click="emit('open', f.field.key)">{{ nameOf(f) }}</button>
            <NamesThere
              v-if="item.names_answers"
              :field="f"
              :names="item.destination.names?.[f.field.key]"
              :refused="refused?.field === key ? refused : undefined"
              @set="(part, value) => set(`names.${f.field.key}.${part}`, value)"
            />
            <button class="act small" :aria-label="`Leave ${nameOf(f)} off`" @click="route(f, false)">leave it off</button>
          </li>
          <li v-for="f in out" :key="f.field.key" class="out">
            <button class="act plain" @click="emit('open', f.field.key)">{{ nameOf(f) }}</button>
            <span class="small">left out: {{ leftOut(f) }}</span>
          </li>
        </ul>
        <div v-if="off.length" class="small offers">
          {{ off.length === 1 ? '1 other is off' : `${off.length} others are off` }};
          <Select
            class="words"
            :model-value="null"
            :options="off.map((f) => ({ key: f.field.key, name: nameOf(f) }))"
            option-label="name"
            option-value="key"
            :filter="off.length > 12"
            placeholder="add one"
            :aria-label="`Add a field to ${item.name}`"
            @update:model-value="(chosen: string) => void change(chosen, `goes_to.${key}`, true)"
          />
        </div>
        <p v-if="refused?.field === key && refused.setting.startsWith('names.')" class="note call" role="alert">{{ refused.sentence }}</p>
      </dd>
      <template v-if="settings.length || kind?.can_be_made">
        <dt>As</dt>
        <dd>
          {{ kind?.name.toLowerCase()
          }}<SettingClause
            v-for="setting in shown"
            :key="setting.name"
            :setting="setting"
            :value="valueOf(setting.name) ?? setting.default"
            :invalid="isRefused(`settings.${setting.name}`)"
            @save="set(`settings.${setting.name}`, $event)"
          /><template v-if="item.destination.takes_new_fields"
            >; new fields go there by themselves
            <button class="act small" @click="set('takes_new_fields', false)">no longer</button></template
          >
          <div v-if="offered.length || !item.destination.takes_new_fields" class="offers small">
            add:
            <button v-for="setting in offered" :key="setting.name" class="act" @click="wanted.push(setting.name)">
              {{ setting.offer }}
            </button>
            <button v-if="!item.destination.takes_new_fields" class="act" @click="set('takes_new_fields', true)">
              that new fields go there by themselves
            </button>
          </div>
          <ClauseNotes :of="key" :problems="draft.problems" :settings="['settings', 'takes_new_fields']" />
        </dd>
      </template>
    </dl>
  </section>
</template>

<style scoped>
.names {
  list-style: none;
  margin: 0;
  padding: 0;
}
.names li {
  display: grid;
  grid-template-columns: minmax(0, 10em) minmax(0, 1fr) auto;
  gap: 2px 12px;
  align-items: baseline;
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
.names .plain {
  text-decoration: none;
  text-align: left;
  font-weight: 500;
}
.names .plain:hover {
  text-decoration: underline;
}
.out span {
  grid-column: 2 / -1;
}
</style>
