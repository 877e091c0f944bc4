import { createRouter, createWebHistory } from 'vue-router';

export const router = createRouter({
  history: createWebHistory('/console/'),
  routes: [
    { path: '/', redirect: '/fields' },
    { path: '/fields/:field?', component: () => import('./pages/FieldsPage.vue'), props: true, meta: { view: 'fields' } },
    { path: '/wording', component: () => import('./pages/WordingPage.vue'), meta: { view: 'wording' } },
    { path: '/versions', component: () => import('./pages/VersionsPage.vue'), meta: { view: 'versions' } },
    { path: '/orders', component: () => import('./pages/OrdersPage.vue'), meta: { view: 'orders' } },
    { path: '/orders/:number', component: () => import('./pages/OrderPage.vue'), props: true, meta: { view: 'orders' } },
    { path: '/papers', component: () => import('./pages/PapersPage.vue'), meta: { view: 'papers' } },
    { path: '/deliveries', component: () => import('./pages/DeliveriesPage.vue'), meta: { view: 'deliveries' } },
    { path: '/shop', component: () => import('./pages/ShopPage.vue'), meta: { view: 'shop' } },
    { path: '/:rest(.*)', redirect: '/fields' },
  ],
});
