import { createRouter, createWebHistory } from 'vue-router';
import { loadSession, user } from '@/session';

export const router = createRouter({
    history: createWebHistory(),
    routes: [
        { path: '/', redirect: '/portfolio' },
        { path: '/sign-in', name: 'sign-in', component: () => import('@/places/signin/SignIn.vue') },
        { path: '/portfolio', name: 'portfolio', component: () => import('@/places/portfolio/PortfolioPlace.vue') },
        { path: '/board', name: 'board', component: () => import('@/places/board/BoardPlace.vue') },
        { path: '/proposals/:uid', name: 'proposal', component: () => import('@/places/board/BoardPlace.vue') },
        { path: '/load', name: 'load', component: () => import('@/places/load/LoadPlace.vue') },
        { path: '/exchange', name: 'exchange', component: () => import('@/places/exchange/ExchangePlace.vue') },
        { path: '/library', name: 'library', component: () => import('@/places/library/LibraryPlace.vue') },
        { path: '/:rest(.*)', name: 'nowhere', component: () => import('@/frame/NowherePlace.vue') },
    ],
});

router.beforeEach(async (to) => {
    if (user.value === null) await loadSession().catch(() => undefined);
    if (user.value === null && to.name !== 'sign-in') return { name: 'sign-in',
        query: to.fullPath === '/portfolio' ? {} : { then: to.fullPath } };
    if (user.value !== null && to.name === 'sign-in') return { name: 'portfolio' };
    return true;
});
