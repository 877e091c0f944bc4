<script setup lang="ts">
import { inject } from 'vue';
import type { Answer, Asked } from '../answers';
import { countriesKey } from '../countries';
import { usePartsOf } from './parts';

const { asked, id, describedBy, invalid, part } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean; part?: string | null }>();
const model = defineModel<Answer | undefined>();

const countries = inject(countriesKey, {});
const { partOf, setPart } = usePartsOf(model);

const lines = [
  { name: 'street', label: 'Street and number', autocomplete: 'street-address' },
  { name: 'postcode', label: 'Postcode', autocomplete: 'postal-code' },
  { name: 'town', label: 'Town', autocomplete: 'address-level2' },
];

const isWrong = (name: string) => invalid && (part == null || part === name);
</script>

<template>
  <div :id="id" class="entry-parts" role="group" :aria-labelledby="`${id}-label`" :aria-describedby="describedBy">
    <div v-for="line in lines" :key="line.name" class="entry-part" :class="line.name">
      <label :for="`${id}-${line.name}`">{{ line.label }}</label>
      <input
        :id="`${id}-${line.name}`"
        class="entry-input"
        :value="partOf(line.name)"
        :autocomplete="line.autocomplete"
        :required="asked.required && line.name !== 'postcode'"
        :aria-invalid="isWrong(line.name) || undefined"
        @input="setPart(line.name, $event)"
      />
    </div>
    <div class="entry-part country">
      <label :for="`${id}-country`">Country</label>
      <select
        :id="`${id}-country`"
        class="entry-input"
        :value="partOf('country')"
        autocomplete="country"
        :required="asked.required"
        :aria-invalid="isWrong('country') || undefined"
        @change="setPart('country', $event)"
      >
        <option value="">Choose …</option>
        <option v-for="(name, code) in countries" :key="code" :value="code">{{ name }}</option>
      </select>
    </div>
  </div>
</template>
