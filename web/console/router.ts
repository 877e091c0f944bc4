import { createRouter, createWebHistory } from 'vue-router';

export const router = createRouter({
  history: createWebHistory('/console/'),
  routes: [
    { path: '/', redirect: '/fields' },
    { path: '/fields/:field?', component: () => import('./pages/FieldsPage.vue'), props: true, meta: { place: 'fields' } },
    { path: '/versions', component: () => import('./pages/VersionsPage.vue'), meta: { place: 'versions' } },
    { path: '/orders', component: () => import('./pages/OrdersPage.vue'), meta: { place: 'orders' } },
    { path: '/orders/:number', component: () => import('./pages/OrderPage.vue'), props: true, meta: { place: 'orders' } },
    { path: '/:rest(.*)', redirect: '/fields' },
  ],
});
