<script setup lang="ts">
import { useIsFetching } from '@tanstack/vue-query';
import { ref, watch } from 'vue';
import AnsweringFor from '../shop/AnsweringFor.vue';
import ConnectionList from '../shop/ConnectionList.vue';
import KeptAndSent from '../shop/KeptAndSent.vue';
import ShopRecord from '../shop/ShopRecord.vue';
import StaffAccounts from '../shop/StaffAccounts.vue';

// The manager decides here what belongs to no field: who works with it and may do what, who is told, by which ways things leave, in whose name, for how long
// they are kept; and needs to see what was changed, by whom.

// All parts come into sight together: what comes later would push down what somebody is about to press.
const fetching = useIsFetching();
const ready = ref(false);
watch(fetching, (count) => (ready.value ||= count === 0), { flush: 'post' });
</script>

<template>
  <div class="plate">
    <div class="title-row"><h1>The shop</h1></div>
    <div :class="{ unready: !ready }">
      <StaffAccounts />
      <AnsweringFor />
      <ConnectionList />
      <KeptAndSent />
      <ShopRecord />
    </div>
  </div>
</template>

<style>
.unready {
  visibility: hidden;
}
.shop-part {
  margin-top: 22px;
  max-width: 1100px;
}
.shop-part > h2 {
  margin: 0 0 6px;
}
.shop-form {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: end;
  padding: 8px 0;
  border-bottom: 1px solid var(--rule-strong);
}
.shop-form label {
  display: grid;
  gap: 2px;
  font-size: 12.5px;
  color: var(--ink-soft);
}
</style>
