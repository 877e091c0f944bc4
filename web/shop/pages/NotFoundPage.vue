<template>
  <div class="sheet">
    <h1>There is no such page.</h1>
    <RouterLink to="/">See what we grow, make and do</RouterLink>
  </div>
</template>
