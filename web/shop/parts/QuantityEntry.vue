<script setup lang="ts">
defineProps<{ id: string }>();
const quantity = defineModel<number>({ required: true });

function take(event: Event): void {
  const value = Math.trunc(Number((event.target as HTMLInputElement).value));
  if (value >= 1 && value <= 999) quantity.value = value;
}
</script>

<template>
  <div class="quantity">
    <label :for="id">How many</label>
    <input :id="id" type="number" inputmode="numeric" min="1" max="999" step="1" :value="quantity" @input="take" @blur="($event.target as HTMLInputElement).value = String(quantity)" />
  </div>
</template>

<style scoped>
.quantity {
  display: flex;
  align-items: center;
  gap: 0.8rem;
  font-weight: 600;
}
input {
  width: 6rem;
  min-height: 2.6rem;
  padding: 0.4rem 0.6rem;
  font: inherit;
  font-weight: 400;
  border: 1.5px solid var(--shop-line);
  border-radius: 4px;
}
</style>
