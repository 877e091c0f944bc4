<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import type { Draft, DraftDestination } from './draft';
import { useDraft } from './draft';
import NamesThere from './NamesThere.vue';
import { routable, type Routed } from './routed';

/** The fields and opening questions that go to one destination, in the order in which they stand there, each with what it is called; and those that are off or left out. */
const { item, draft } = defineProps<{ item: DraftDestination; draft: Draft }>();
const emit = defineEmits<{ open: [key: string] }>();
const { change, refused } = useDraft();

const key = computed(() => item.key);
const order = computed(() => item.destination.order ?? []);
const place = (f: Routed) => {
  const at = order.value.indexOf(f.key);
  return at < 0 ? order.value.length : at;
};
const canGo = computed(() => routable(draft, item));
const going = computed(() => canGo.value.filter((f) => f.goesTo.includes(key.value)).toSorted((a, b) => place(a) - place(b)));
const off = computed(() => canGo.value.filter((f) => !f.goesTo.includes(key.value)));
const leftOut = (f: Routed) => f.left_out.find((l) => l.destination === key.value)?.why;
const out = computed(() => off.value.filter(leftOut));

const set = (setting: string, value: unknown) => void change(key.value, setting, value);
const route = (f: Routed, on: boolean) => void change(f.key, `goes_to.${key.value}`, on);

// The fields that stand beside each other there: those of the same level.
function move(f: Routed, by: -1 | 1): void {
  const keys = going.value.map((g) => g.key);
  const same = going.value.filter((g) => g.level === f.level).map((g) => g.key);
  const other = same[same.indexOf(f.key) + by];
  if (!other) return;
  const next = keys.filter((k) => k !== f.key);
  next.splice(next.indexOf(other) + (by > 0 ? 1 : 0), 0, f.key);
  set('order', next);
}
const canMove = (f: Routed, by: -1 | 1) => {
  const same = going.value.filter((g) => g.level === f.level);
  return !!same[same.indexOf(f) + by];
};
</script>

<template>
  <dd>
    <p v-if="!going.length">Nothing goes there yet.</p>
    <ul class="names" :class="{ named: item.names_answers }">
      <li v-for="f in going" :key="f.key">
        <button class="act plain" :title="`Open “${f.name}”`" @click="emit('open', f.key)">{{ f.name }}</button>
        <NamesThere
          v-if="item.names_answers"
          :field="f"
          :item="item"
          :names="item.destination.names?.[f.key]"
          :refused="refused?.field === key ? refused : undefined"
          @set="(part, value) => set(`names.${f.key}.${part}`, value)"
        />
        <span class="moves small">
          <button class="act move" :disabled="!canMove(f, -1)" :aria-label="`${f.name} further up`" @click="move(f, -1)">↑</button>
          <button class="act move" :disabled="!canMove(f, 1)" :aria-label="`${f.name} further down`" @click="move(f, 1)">↓</button>
          <button class="act" :aria-label="`Leave ${f.name} off`" @click="route(f, false)">leave it off</button>
        </span>
      </li>
      <li v-for="f in out" :key="f.key" class="out">
        <button class="act plain" @click="emit('open', f.key)">{{ f.name }}</button>
        <span class="small">left out: {{ leftOut(f) }}</span>
      </li>
    </ul>
    <div v-if="off.length" class="small offers">
      {{ off.length === 1 ? '1 other is off' : `${off.length} others are off` }};
      <Select
        class="words"
        :model-value="null"
        :options="off"
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
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 12px;
  align-items: start;
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
/* What moves a field stands under its name, where what it is called needs the room beside it. */
.named li {
  grid-template: auto 1fr / minmax(0, 10em) minmax(0, 1fr);
}
.named .moves {
  grid-area: 2 / 1;
}
.named .there {
  grid-area: 1 / 2 / span 2;
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
  grid-column: 2;
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
