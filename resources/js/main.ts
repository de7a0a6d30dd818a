import '@fontsource-variable/source-sans-3/index.css';
import './ui/base.css';
import { VueQueryPlugin } from '@tanstack/vue-query';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './App.vue';
import { router } from './router';
import { applyPalette } from './ui/appearance';
import { i18n } from './words';

applyPalette();
createApp(App).use(createPinia()).use(router).use(i18n).use(VueQueryPlugin).mount('#app');
