import '../shared/fonts.css';
import './shop.css';
import { createApp } from 'vue';
import { createRouter, createWebHistory } from 'vue-router';
import { filesKey } from '../entry/files';
import { suggestKey } from '../entry/suggest';
import { api, ask } from '../shared/api/client';
import { spoken } from '../shared/wording';
import { need } from './catalogue';
import { cartFiles } from './files';
import Shop from './Shop.vue';

const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', component: () => import('./pages/CataloguePage.vue') },
    { path: '/products/:code', component: () => import('./pages/ProductPage.vue'), props: true },
    { path: '/cart', component: () => import('./pages/CartPage.vue') },
    { path: '/checkout/payment', component: () => import('./pages/PaymentPage.vue'), props: { kind: 'cart' } },
    { path: '/checkout/:step', component: () => import('./pages/StepPage.vue'), props: true },
    { path: '/at-once', component: () => import('./pages/AtOncePage.vue') },
    { path: '/at-once/payment', component: () => import('./pages/PaymentPage.vue'), props: { kind: 'at_once' } },
    { path: '/orders/:token', component: () => import('./pages/ConfirmationPage.vue'), props: true },
    { path: '/papers/:token', component: () => import('./pages/PaperPage.vue'), props: true },
    { path: '/account', component: () => import('./pages/AccountPage.vue') },
    { path: '/account/orders/:number', component: () => import('./pages/AccountOrderPage.vue'), props: true },
    { path: '/account/:token', component: () => import('./pages/SignInPage.vue'), props: true },
    { path: '/:rest(.*)', component: () => import('./pages/NotFoundPage.vue') },
  ],
  scrollBehavior: (to, _from, saved) => saved ?? (to.hash ? { el: to.hash } : { top: 0 }),
});

// The page of a product opens with it.
router.beforeEach(async (to) => {
  if (typeof to.params.code === 'string') await need([to.params.code]).catch(() => undefined);
});

// Each page speaks one language to its end, whatever is chosen in another window.
api.use({ onRequest: ({ request }) => request.headers.set('Sexton-Language', spoken().language) });

createApp(Shop)
  .use(router)
  .provide(suggestKey, (country, q) => ask(api.GET('/api/shop/v1/addresses', { params: { query: { country, q } } })))
  .provide(filesKey, cartFiles)
  .mount('#shop');
