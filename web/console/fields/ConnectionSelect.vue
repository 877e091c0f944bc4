<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import Select from 'primevue/select';
import { computed } from 'vue';
import { api, ask } from '../../shared/api/client';

/** One of the connections of the shop. */
const { value, optional, label } = defineProps<{ value: unknown; optional: boolean; label: string }>();
const emit = defineEmits<{ save: [value: unknown] }>();
const OF_INSTALLATION = 'of installation';

const query = useQuery({ queryKey: ['shop', 'connections'], queryFn: () => ask(api.GET('/api/console/v1/shop/connections')) });
const choices = computed(() => [
  ...(optional ? [{ key: OF_INSTALLATION, name: 'that of the installation' }] : []),
  ...(query.data.value ?? []).map(({ key, name }) => ({ key, name: `“${name}”` })),
]);
</script>

<template>
  <RouterLink v-if="query.isSuccess.value && choices.length === 0" to="/shop" class="act">make a connection first</RouterLink>
  <Select
    v-else
    class="words"
    :model-value="value ?? (optional ? OF_INSTALLATION : null)"
    :options="choices"
    option-label="name"
    option-value="key"
    placeholder="choose a connection"
    :aria-label="label"
    @update:model-value="emit('save', $event === OF_INSTALLATION ? null : $event)"
  />
</template>
