<script setup lang="ts">
import Select from 'primevue/select';
import type { Draft, Level } from './draft';
import TermInput from './TermInput.vue';
import WordInput from './WordInput.vue';
import { fresh, isRounding, steps, type Row, type Term } from './formula';

/** How an answer is worked out, in ruled rows: each works with what came out of those before it. */
const { rows, draft, level, ofKey } = defineProps<{ rows: Row[]; draft: Draft; level: Level; ofKey: string; inner?: boolean }>();
const emit = defineEmits<{ save: [rows: Row[]] }>();

const set = (at: number, part: Partial<Row>) =>
  emit(
    'save',
    rows.map((r, i) => (i === at ? { ...r, ...part } : r)),
  );
const remove = (at: number) =>
  emit(
    'save',
    rows.filter((_, i) => i !== at),
  );
const add = () =>
  emit('save', [...rows, rows.length ? { do: 'times', of: fresh('number', level) } : { do: 'take', of: fresh('fact', level) }]);

// A row that needs something to work with gets it, and one that does not loses it.
function setStep(at: number, step: string): void {
  const next: Row = { do: step };
  if (step === 'by_bands') next.bands = [{ over: 0, gives: 1 }];
  else if (!isRounding(next)) next.of = rows[at]!.of ?? fresh(step === 'then' ? 'text' : 'number', level);
  emit(
    'save',
    rows.map((r, i) => (i === at ? next : r)),
  );
}

function numberOf(typed: string): number | undefined {
  const number = Number(typed.replace(',', '.'));
  return typed.trim() && Number.isFinite(number) ? number : undefined;
}

function setTo(at: number, typed: string): void {
  const to = numberOf(typed);
  if (to !== undefined && to > 0) set(at, { to });
}

function setBand(at: number, band: number, member: 'over' | 'gives', typed: string): void {
  const number = numberOf(typed);
  if (number !== undefined) set(at, { bands: rows[at]!.bands!.map((b, i) => (i === band ? { ...b, [member]: number } : b)) });
}

function addBand(at: number): void {
  const last = rows[at]!.bands!.at(-1)!;
  set(at, { bands: [...rows[at]!.bands!, { over: last.over + 10, gives: last.gives }] });
}
</script>

<template>
  <ol class="ruled" :class="{ inner }">
    <li v-for="(row, i) in rows" :key="i">
      <div>
        <Select
          v-if="i > 0"
          class="words"
          :model-value="row.do"
          :options="steps"
          option-label="name"
          option-value="key"
          :aria-label="`What row ${i + 1} does`"
          @update:model-value="setStep(i, $event)"
        />
        {{ ' ' }}
        <template v-if="isRounding(row)"
          >multiples of <WordInput :value="String(row.to ?? 1)" :label="`Multiples of row ${i + 1}`" numeric @save="setTo(i, $event)"
        /></template>
        <template v-else-if="row.do === 'by_bands'">
          <template v-for="(band, j) in row.bands" :key="j"
            >{{ j ? ', ' : '' }}over
            <WordInput
              :value="String(band.over)"
              :label="`Where band ${j + 1} of row ${i + 1} begins`"
              numeric
              @save="setBand(i, j, 'over', $event)"
            />
            it is
            <WordInput
              :value="String(band.gives)"
              :label="`What band ${j + 1} of row ${i + 1} gives`"
              numeric
              @save="setBand(i, j, 'gives', $event)"
            />
            <button
              v-if="row.bands!.length > 1"
              class="act out"
              :aria-label="`Take away band ${j + 1} of row ${i + 1}`"
              @click="set(i, { bands: row.bands!.filter((_, k) => k !== j) })"
            >
              ×
            </button></template
          >
          <button class="act small" @click="addBand(i)">add a band</button>
        </template>
        <template v-else>
          <template v-if="row.do === 'then'"
            >“<WordInput :value="row.between ?? ' '" :label="`What stands before row ${i + 1}`" @save="set(i, { between: $event })" />” and
          </template>
          <TermInput
            :model-value="(row.of ?? {}) as Term"
            :draft="draft"
            :level="level"
            :of-key="ofKey"
            :label="`row ${i + 1}`"
            @update:model-value="set(i, { of: $event })"
          />
        </template>
      </div>
      <button v-if="i > 0 || rows.length === 1" class="act out" :aria-label="`Take away row ${i + 1}`" title="take away" @click="remove(i)">
        ×
      </button>
    </li>
  </ol>
  <p class="add">
    <button class="act" @click="add">{{ rows.length ? 'add a row' : 'begin with an answer' }}</button>
  </p>
</template>

<style scoped>
.inner {
  border-left: 2px solid var(--rule-strong);
  padding-left: 9px;
}
.add {
  margin: 0;
}
</style>
