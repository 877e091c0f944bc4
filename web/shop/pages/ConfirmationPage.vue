<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';

const { token } = defineProps<{ token: string }>();
const order = ref<Schemas['OrderPageView']>();
const failure = ref('');

const placed = computed(() => order.value && new Intl.DateTimeFormat(undefined, { dateStyle: 'long', timeStyle: 'short' }).format(new Date(order.value.placed_at)));
const entriesOf = (line: string | null) => order.value?.entries.filter((e) => e.line_id === line) ?? [];

watch(
  () => token,
  async () => {
    try {
      order.value = await ask(api.GET('/api/shop/v1/orders/{token}', { params: { path: { token } } }));
    } catch (error) {
      failure.value = sentenceOf(error);
    }
  },
  { immediate: true },
);
</script>

<template>
  <div class="sheet narrow">
    <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
    <template v-if="order">
      <h1>Thank you for your order {{ order.number }}</h1>
      <p class="soft">Placed {{ placed }}. A confirmation is on its way to you by e-mail.</p>
      <section v-for="line in order.lines" :key="line.id">
        <h2>
          <span>{{ line.quantity }} × {{ line.name }}</span> <span class="sum-of">{{ line.sum }}</span>
        </h2>
        <dl class="told">
          <template v-for="entry in entriesOf(line.id)" :key="entry.slot">
            <dt>{{ entry.name }}</dt>
            <dd :data-slot="entry.slot">{{ entry.text }}</dd>
          </template>
        </dl>
      </section>
      <p class="total"><span>Together</span> <span>{{ order.total }}</span></p>
      <section v-if="entriesOf(null).length">
        <h2>Your details</h2>
        <dl class="told">
          <template v-for="entry in entriesOf(null)" :key="entry.slot">
            <dt>{{ entry.name }}</dt>
            <dd :data-slot="entry.slot">{{ entry.text }}</dd>
          </template>
        </dl>
      </section>
    </template>
  </div>
</template>

<style scoped>
section {
  border-top: 1px solid var(--shop-rule);
  padding: 0.8rem 0 0.2rem;
}
h2,
.total {
  display: flex;
  justify-content: space-between;
  gap: 1rem;
}
h2 .sum-of {
  font: 400 1rem var(--work);
}
.told {
  margin: 0;
}
.total {
  font-weight: 650;
  border-top: 2px solid var(--shop-bark);
  padding-top: 0.6rem;
  margin: 0.5rem 0 1.5rem;
}
</style>
