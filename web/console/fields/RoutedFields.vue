<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import type { Draft, DraftDestination, DraftField, Level } from './draft';
import { useDraft } from './draft';
import { nameOf } from './groups';
import NamesThere from './NamesThere.vue';

/** The fields that go to one destination, in the order in which they stand there, each with what it is called; and those that are off or left out. */
const { item, draft } = defineProps<{ item: DraftDestination; draft: Draft }>();
const emit = defineEmits<{ open: [key: string] }>();
const { change, refused } = useDraft();

const key = computed(() => item.key);
const order = computed(() => item.destination.order ?? []);
const place = (f: DraftField) => {
  const at = order.value.indexOf(f.field.key);
  return at < 0 ? order.value.length : at;
};
const canGo = computed(() =>
  draft.fields.filter(
    (f) =>
      !f.field.retired && item.levels.includes(f.field.level as Level) && !draft.types.find((t) => t.key === f.field.type)?.asks_nothing,
  ),
);
const going = computed(() => canGo.value.filter((f) => f.field.goes_to?.includes(key.value)).toSorted((a, b) => place(a) - place(b)));
const off = computed(() => canGo.value.filter((f) => !f.field.goes_to?.includes(key.value)));
const leftOut = (f: DraftField) => f.left_out.find((l) => l.destination === key.value)?.why;
const out = computed(() => off.value.filter(leftOut));

const set = (setting: string, value: unknown) => void change(key.value, setting, value);
const route = (f: DraftField, on: boolean) => void change(f.field.key, `goes_to.${key.value}`, on);

// The fields that stand beside each other there: those of the same level.
function move(f: DraftField, by: -1 | 1): void {
  const keys = going.value.map((g) => g.field.key);
  const same = going.value.filter((g) => g.field.level === f.field.level).map((g) => g.field.key);
  const other = same[same.indexOf(f.field.key) + by];
  if (!other) return;
  const next = keys.filter((k) => k !== f.field.key);
  next.splice(next.indexOf(other) + (by > 0 ? 1 : 0), 0, f.field.key);
  set('order', next);
}
const canMove = (f: DraftField, by: -1 | 1) => {
  const same = going.value.filter((g) => g.field.level === f.field.level);
  return !!same[same.indexOf(f) + by];
};
</script>

<template>
  <dd>
    <p v-if="!going.length">Nothing goes there yet.</p>
    <ul class="names">
      <li v-for="f in going" :key="f.field.key">
        <button class="act plain" :title="`Open “${nameOf(f)}”`" @click="emit('open', f.field.key)">{{ nameOf(f) }}</button>
        <NamesThere
          v-if="item.names_answers"
          :field="f"
          :item="item"
          :names="item.destination.names?.[f.field.key]"
          :refused="refused?.field === key ? refused : undefined"
          @set="(part, value) => set(`names.${f.field.key}.${part}`, value)"
        />
        <span v-else></span>
        <span class="moves">
          <button class="act move" :disabled="!canMove(f, -1)" :aria-label="`${nameOf(f)} further up`" @click="move(f, -1)">↑</button>
          <button class="act move" :disabled="!canMove(f, 1)" :aria-label="`${nameOf(f)} further down`" @click="move(f, 1)">↓</button>
          <button class="act small" :aria-label="`Leave ${nameOf(f)} off`" @click="route(f, false)">leave it off</button>
        </span>
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
    <p v-if="refused?.field === key && /^(names\.|order)/.test(refused.setting)" class="note call" role="alert">{{ refused.sentence }}</p>
  </dd>
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
.move {
  text-decoration: none;
  min-width: 24px;
  min-height: 24px;
}
.moves {
  white-space: nowrap;
}
</style>
