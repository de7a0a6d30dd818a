import '@fontsource-variable/source-sans-3/index.css';
import './ui/base.css';
import { VueQueryPlugin } from '@tanstack/vue-query';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './App.vue';
import { router } from './router';
import { applyPalette } from './ui/appearance';
import { begin } from './ui/begin';
import { i18n } from './words';

applyPalette();
// what the server said is never changed in place, so nothing in it needs to be watched
const queryClientConfig = { defaultOptions: { queries: { shallow: true } } };
createApp(App).use(createPinia()).use(router).use(i18n).use(VueQueryPlugin, { queryClientConfig }).directive('begin', begin).mount('#app');
