<script setup lang="ts">
import type { Schemas } from '../../shared/api/client';
import type { Draft } from './draft';
import SettingControl from './SettingControl.vue';

/** One setting as it stands in a paragraph: the words of its clause, with its control in between. */
const { setting, value, invalid, draft } = defineProps<{
  setting: Schemas['SettingView'];
  value: unknown;
  invalid: boolean;
  draft?: Draft;
}>();
const emit = defineEmits<{ save: [value: unknown] }>();
</script>

<template>
  {{ `; ${setting.clause.split('{}')[0]}${setting.kind === 'toggle' ? ' ' : ''}`
  }}<button v-if="setting.kind === 'toggle'" class="act small" @click="emit('save', null)">take away</button
  ><SettingControl v-else :setting="setting" :value="value" :invalid="invalid" :draft="draft" @save="emit('save', $event)" /><template
    v-if="setting.clause.split('{}')[1]"
    >{{ setting.clause.split('{}')[1] }}</template
  >
</template>
