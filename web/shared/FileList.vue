<script setup lang="ts">
import type { Schemas } from './api/client';

/** Files as a page shows them: what each looks like, its name to fetch it by, and its size. */
defineProps<{ files: Schemas['FileView'][] }>();
</script>

<template>
  <ul class="files">
    <li v-for="(file, i) in files" :key="i">
      <a :href="file.link" :download="file.name"><img :src="file.small" alt="" />{{ file.name }}</a>
      <span class="soft">{{ file.size_text }}</span>
    </li>
  </ul>
</template>

<style scoped>
.files {
  list-style: none;
  margin: 0.2rem 0;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 0.8rem;
}
li + li {
  margin-top: 0.3rem;
}
a {
  display: inline-flex;
  align-items: center;
  gap: 0.6rem;
  min-height: 2.4rem;
}
img {
  width: 4rem;
  height: 3rem;
  object-fit: contain;
}
</style>
