<script setup lang="ts">
import { computed } from 'vue';
import MarkSign from '../parts/MarkSign.vue';
import type { SignKey } from '../parts/signs';
import type { Schemas } from '../../shared/api/client';
import type { Draft, DraftDestination } from './draft';

// The manager sees here every destination with what it takes, how far it can prove that it has it, and how much goes there; each opens as a paragraph.
const { draft, selected, filter } = defineProps<{ draft: Draft; selected?: string; filter: string }>();
const emit = defineEmits<{ open: [key: string]; add: [kind: string] }>();

const word = computed(() => filter.trim().toLowerCase());
const groups = computed(() =>
  [...new Map(draft.destination_kinds.map((k) => [k.family.key, k.family.name]))]
    .map(([key, name]) => ({
      key,
      name,
      destinations: draft.destinations.filter(
        (d) => d.family === key && (d.name.toLowerCase().includes(word.value) || d.key.includes(word.value)),
      ),
    }))
    .filter((g) => g.destinations.length > 0),
);

const levels = [
  { key: 'order', name: 'Order' },
  { key: 'line', name: 'Lines' },
  { key: 'unit', name: 'Each one' },
] as const;
const moments = [
  { key: 'placed', name: 'Placed' },
  { key: 'paid', name: 'Paid' },
  { key: 'approved', name: 'Approved' },
  { key: 'prepared', name: 'Prepared' },
  { key: 'day', name: 'On a day' },
] as const;
const made = computed(() => draft.destination_kinds.filter((k) => k.can_be_made));
const isAt = (d: DraftDestination, moment: string) =>
  d.is_delivered && !d.follows_another && !d.tells_events && (d.destination.release ?? 'placed') === moment;
const whenSign = (d: DraftDestination): SignKey => (d.destination.gets ? 'must_if' : 'must');
const takesSign = (d: DraftDestination, level: Schemas['Level']): SignKey =>
  !d.levels.includes(level) ? 'stays' : (level === 'order' ? d.longest_order_text : d.longest_line_text) === null ? 'goes' : 'goes_cut';
const proofs: Record<string, { sign: SignKey; words: string }> = {
  shown: { sign: 'folded_sheet', words: 'shown' },
  included: { sign: 'folded_sheet', words: 'included' },
  confirmed: { sign: 'sealed_sheet', words: 'confirmed' },
};
const proofOf = (d: DraftDestination) => proofs[draft.destination_kinds.find((k) => k.key === d.destination.kind)?.ceiling ?? 'shown']!;
const goingTo = (d: DraftDestination) => draft.fields.filter((f) => !f.field.retired && f.field.goes_to?.includes(d.key)).length;
const leftOutOf = (d: DraftDestination) => draft.fields.filter((f) => f.left_out.some((l) => l.destination === d.key)).length;

/** Puts the focus on what is open. */
const focus = () => document.querySelector<HTMLElement>('.destinations-list [aria-current]')?.focus();

defineExpose({ focus });
</script>

<template>
  <table class="destinations-list" aria-label="Destinations">
    <thead>
      <tr class="over">
        <td></td>
        <th :colspan="moments.length" scope="colgroup">Gets it when</th>
        <td class="gap"></td>
        <th :colspan="levels.length + 1" scope="colgroup">Takes answers of</th>
        <td class="gap"></td>
        <th scope="col">Proof</th>
        <td></td>
      </tr>
      <tr class="columns">
        <td></td>
        <th v-for="moment in moments" :key="moment.key" scope="col" class="slant">
          <span>{{ moment.name }}</span>
        </th>
        <td class="gap"></td>
        <th v-for="level in levels" :key="level.key" scope="col" class="slant">
          <span>{{ level.name }}</span>
        </th>
        <th scope="col" class="slant"><span>Files</span></th>
        <td class="gap"></td>
        <th scope="col" class="small soft">at best</th>
        <th scope="col" class="figure">Fields</th>
      </tr>
    </thead>
    <tbody v-for="group in groups" :key="group.key">
      <tr>
        <th class="family" colspan="14" scope="rowgroup">{{ group.name }}</th>
      </tr>
      <tr v-for="d in group.destinations" :key="d.key" :class="{ selected: d.key === selected }">
        <th scope="row">
          <button :aria-current="d.key === selected || undefined" @click="emit('open', d.key)">{{ d.name }}</button>{{ ' ' }}
          <span v-if="d.destination.retired" class="soft small">retired</span>
          <span v-else-if="d.destination.switched_off" class="soft small">off</span>
          <span v-else-if="d.changed" class="soft small">changed</span>
        </th>
        <td v-for="moment in moments" :key="moment.key" class="mark">
          <template v-if="isAt(d, moment.key)">
            <MarkSign :sign="whenSign(d)" />
            <span class="visually-hidden">{{ d.destination.gets ? 'then, under a condition' : 'then' }}</span>
          </template>
        </td>
        <td class="gap"></td>
        <td v-for="level in levels" :key="level.key" class="mark">
          <MarkSign :sign="takesSign(d, level.key)" />
          <span class="visually-hidden">{{
            { goes: 'takes these', goes_cut: 'takes these, only so long', stays: 'has no place for these' }[
              takesSign(d, level.key) as string
            ]
          }}</span>
        </td>
        <td class="mark">
          <MarkSign :sign="d.files ? 'goes' : 'stays'" />
          <span class="visually-hidden">{{ d.files ? 'takes files' : 'takes no files' }}</span>
        </td>
        <td class="gap"></td>
        <td class="proof"><MarkSign :sign="proofOf(d).sign" /> {{ proofOf(d).words }}</td>
        <td class="figure">
          <template v-if="leftOutOf(d)"
            ><MarkSign sign="flagged_hole" /> <span class="small">{{ leftOutOf(d) }} left out</span>&ensp;</template
          >{{ goingTo(d) }}
        </td>
      </tr>
    </tbody>
  </table>
  <p v-if="!groups.length">No destination has that name.</p>
  <p class="small add">
    add:
    <template v-for="kind in made" :key="kind.key"
      >{{ ' '
      }}<button class="act" @click="emit('add', kind.key)">
        {{ kind.family.name.toLowerCase() }}: {{ kind.name.toLowerCase() }}
      </button></template
    >
  </p>
</template>

<style scoped>
table {
  width: 100%;
}
thead {
  position: sticky;
  top: 0;
  z-index: 2;
  background: var(--paper);
}
th,
td {
  text-align: left;
  border-bottom: 1px solid var(--rule);
  height: 29px;
  padding: 0 12px 0 0;
}
thead th,
thead td {
  border-bottom: 0;
}
.over th {
  height: auto;
  padding-top: 2px;
}
.columns th,
.columns td {
  height: 58px;
  vertical-align: bottom;
}
.slant {
  position: relative;
  width: 31px;
  padding: 0;
}
.slant span {
  position: absolute;
  left: 12px;
  bottom: 5px;
  white-space: nowrap;
  transform-origin: 0 100%;
  transform: rotate(-45deg);
}
.mark {
  width: 31px;
  padding: 0;
}
.gap {
  width: 22px;
  padding: 0;
}
.add {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 12px;
  margin: 10px 9px;
}
thead th {
  font-size: var(--size-small);
  color: var(--ink-soft);
  font-weight: 400;
}
tbody th {
  font-size: var(--size);
  color: var(--ink);
}
.family {
  font: 600 14px var(--title);
  padding: 12px 0 3px 9px;
  border-bottom: 1px solid var(--rule-strong);
}
th button {
  font: inherit;
  font-weight: 500;
  color: inherit;
  background: none;
  border: 0;
  cursor: pointer;
  text-align: left;
  min-height: 28px;
  padding: 0 8px 0 9px;
}
td :deep(svg) {
  vertical-align: -3px;
}
.selected {
  background: var(--sheet);
}
.selected button {
  text-decoration: underline;
  text-underline-offset: 3px;
}
.proof {
  white-space: nowrap;
}
.figure {
  text-align: right;
  padding-right: 4px;
  font-variant-numeric: tabular-nums;
}
</style>
