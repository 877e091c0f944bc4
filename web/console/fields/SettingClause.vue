<script setup lang="ts">
import type { Schemas } from '../../shared/api/client';
import SettingControl from './SettingControl.vue';

/** One setting as it stands in a paragraph: the words of its clause, with its control in between. */
const { setting, value, invalid } = defineProps<{ setting: Schemas['SettingView']; value: unknown; invalid: boolean }>();
const emit = defineEmits<{ save: [value: unknown] }>();
</script>

<template>
  ; {{ setting.clause.split('{}')[0]
  }}<SettingControl :setting="setting" :value="value" :invalid="invalid" @save="emit('save', $event)" />{{ setting.clause.split('{}')[1] }}
</template>
