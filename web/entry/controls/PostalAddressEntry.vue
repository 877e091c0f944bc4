<script setup lang="ts">
import { computed, inject, onBeforeUnmount, ref, useSlots } from 'vue';
import type { Answer, Asked } from '../answers';
import { suggestKey, type Suggested } from '../suggest';
import { usePartsOf } from './parts';
import { say } from '../../shared/wording';

interface Format {
  code: string;
  name: string;
  parts: { name: string; label: string; required: boolean }[];
  land: string;
}

const { asked, id, describedBy, invalid, part } = defineProps<{
  asked: Asked;
  id: string;
  describedBy?: string;
  invalid: boolean;
  part?: string | null;
}>();
const model = defineModel<Answer | undefined>();
const { partOf, setPart, setParts } = usePartsOf(model);

// The first is for a country that nobody chose yet.
const formats = computed(() => asked.settings.countries as Format[]);
const format = computed(() => formats.value.find((f) => f.code === partOf('country')) ?? formats.value[0]!);

const slots = useSlots();
const lacking = computed(() => Object.keys(slots).filter((n) => n !== 'country' && !format.value.parts.some((p) => p.name === n)));

const autocomplete: Record<string, string> = {
  street: 'address-line1',
  extra: 'address-line2',
  town: 'address-level2',
  region: 'address-level1',
  postcode: 'postal-code',
};
// What is suggested while typing is a help and never forced: a line of its own is as good as one that was chosen.
const suggest = inject(suggestKey, undefined);
const suggested = ref<Suggested[]>([]);
const inFull = (address: Suggested) => [address.street, [address.postcode, address.town].filter(Boolean).join(' ')].join(', ');
let timer: ReturnType<typeof setTimeout> | undefined;
let turns = 0;

function onStreet(event: Event): void {
  const typed = (event.target as HTMLInputElement).value;
  const chosen = suggested.value.find((s) => inFull(s) === typed);
  if (chosen) {
    setParts({ street: chosen.street, town: chosen.town, ...(chosen.postcode ? { postcode: chosen.postcode } : {}) });
    suggested.value = [];
    return;
  }
  setPart('street', event);
  clearTimeout(timer);
  if (suggest) timer = setTimeout(() => void look(typed), 250);
}

async function look(typed: string): Promise<void> {
  const turn = ++turns;
  const found = partOf('country') && typed.trim().length >= 3 ? await suggest!(partOf('country'), typed).catch(() => []) : [];
  if (turn === turns) suggested.value = found;
}

onBeforeUnmount(() => clearTimeout(timer));

const isWrong = (name: string) => invalid && (part == null || part === name);
</script>

<template>
  <div :id="id" class="entry-parts" role="group" :aria-labelledby="`${id}-label`" :aria-describedby="describedBy">
    <div class="entry-part country">
      <label :for="`${id}-country`">{{ format.land }}</label>
      <select
        :id="`${id}-country`"
        class="entry-input"
        :value="partOf('country')"
        autocomplete="country"
        :required="asked.required"
        :aria-invalid="isWrong('country') || undefined"
        @change="setPart('country', $event)"
      >
        <option value="">{{ say('form.choose') }}</option>
        <option v-for="country in formats.slice(1)" :key="country.code" :value="country.code">{{ country.name }}</option>
      </select>
    </div>
    <slot name="country"></slot>
    <template v-for="line in format.parts" :key="line.name">
      <div class="entry-part" :class="line.name">
        <label :for="`${id}-${line.name}`"
          >{{ line.label
          }}<span v-if="asked.required && !line.required" class="entry-optional">{{ ` ${say('form.optional')}` }}</span></label
        >
        <input
          :id="`${id}-${line.name}`"
          class="entry-input"
          :value="partOf(line.name)"
          :autocomplete="autocomplete[line.name]"
          :required="asked.required && line.required"
          :aria-invalid="isWrong(line.name) || undefined"
          :list="line.name === 'street' && suggest ? `${id}-suggested` : undefined"
          @input="line.name === 'street' ? onStreet($event) : setPart(line.name, $event)"
        />
      </div>
      <slot :name="line.name"></slot>
    </template>
    <!-- What stands after a part that this country does not have. -->
    <slot v-for="name in lacking" :key="name" :name="name"></slot>
    <datalist v-if="suggest" :id="`${id}-suggested`">
      <option v-for="address in suggested" :key="inFull(address)" :value="inFull(address)"></option>
    </datalist>
  </div>
</template>
