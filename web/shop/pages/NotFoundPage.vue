<script setup lang="ts">
import { say } from '../../shared/wording';
</script>

<template>
  <div class="sheet">
    <h1>{{ say('shop.no_such_page') }}</h1>
    <RouterLink to="/">{{ say('shop.see_all') }}</RouterLink>
  </div>
</template>
