import '../shared/fonts.css';
import './theme.css';
import './controls.css';
import './paragraph.css';
import './thread.css';
import { VueQueryPlugin } from '@tanstack/vue-query';
import PrimeVue from 'primevue/config';
import { createApp } from 'vue';
import Console from './Console.vue';
import { leaveList } from './parts/leaveList';
import { preset } from './preset';
import { router } from './router';

createApp(Console)
  .use(router)
  .use(VueQueryPlugin, { queryClientConfig: { defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true, staleTime: 2_000 } } } })
  .use(PrimeVue, {
    theme: { preset, options: { darkModeSelector: 'system', cssLayer: false } },
    pt: { select: { root: { onKeydownCapture: leaveList } }, multiselect: { root: { onKeydownCapture: leaveList } } },
  })
  .mount('#console');
