<script setup lang="ts">
import { useWork } from '../../shared/work';
import { locale, say } from '../../shared/wording';
import { catalogue, loadMore, productsOf } from '../catalogue';

const { busy, failure, run } = useWork();
</script>

<template>
  <div class="sheet">
    <h1 class="visually-hidden">{{ say('shop.catalogue') }}</h1>
    <section v-for="category in catalogue?.categories ?? []" :id="category.key.replaceAll(' ', '-')" :key="category.key">
      <h2>{{ category.name }}</h2>
      <ul>
        <li v-for="product in productsOf(category)" :key="product.code">
          <RouterLink :to="`/products/${product.code}`">
            <img
              v-if="product.picture"
              :src="`/pictures/${product.picture}`"
              :alt="product.picture_words"
              width="300"
              height="190"
              loading="lazy"
            />
            <span class="name">{{ product.name }}</span>
            <span class="soft">{{ product.price }}</span>
          </RouterLink>
        </li>
      </ul>
      <p v-if="productsOf(category).length < category.count">
        <button class="plain" :disabled="busy" @click="run(() => loadMore(category))">
          {{
            say(
              'shop.more_of',
              category.name,
              productsOf(category).length.toLocaleString(locale()),
              category.count.toLocaleString(locale()),
            )
          }}
        </button>
      </p>
    </section>
    <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
  </div>
</template>

<style scoped>
section + section {
  margin-top: 2rem;
}
h2 {
  border-top: 2px solid var(--shop-bark);
  padding-top: 0.5rem;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr));
  gap: 1.5rem;
}
a {
  display: grid;
  gap: 0.1rem;
  text-decoration: none;
}
a:hover .name {
  text-decoration: underline;
}
img {
  width: 100%;
  height: auto;
  background: var(--shop-wash);
  margin-bottom: 0.3rem;
}
.name {
  font-weight: 600;
}
</style>
