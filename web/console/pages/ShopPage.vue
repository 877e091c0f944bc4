<script setup lang="ts">
import AnsweringFor from '../shop/AnsweringFor.vue';
import ConnectionList from '../shop/ConnectionList.vue';
import KeptAndSent from '../shop/KeptAndSent.vue';
import ShopRecord from '../shop/ShopRecord.vue';
import StaffAccounts from '../shop/StaffAccounts.vue';

// The manager decides here what belongs to no field: who works with it and may do what, who is told, by which ways things leave, in whose name, for how long
// they are kept; and needs to see what was changed, by whom.
</script>

<template>
  <div class="plate">
    <div class="title-row"><h1>The shop</h1></div>
    <StaffAccounts />
    <AnsweringFor />
    <ConnectionList />
    <KeptAndSent />
    <ShopRecord />
  </div>
</template>

<style>
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
