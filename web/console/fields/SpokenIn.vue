<script setup lang="ts">
import Select from 'primevue/select';
import { spoken } from '../../shared/wording';
import { language } from './standIn';

/** The language in which a stand-in cart is spoken to, as a word among words. */
const { label } = defineProps<{ label: string }>();
</script>

<template>
  <Select v-model="language" class="words" :options="spoken().languages" option-label="name" option-value="tag" :aria-label="label" />
</template>
