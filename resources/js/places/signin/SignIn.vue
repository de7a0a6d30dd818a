<script setup lang="ts">
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import SignInForm from './SignInForm.vue';

const { t } = useI18n();
const route = useRoute();
const router = useRouter();

function enter(): void {
    const then = route.query.then;
    void router.push(typeof then === 'string' && /^\/(?!\/)/.test(then) ? then : { name: 'portfolio' });
}
</script>

<template>
    <div class="door"><SignInForm :title="t('signIn.title')" @done="enter" /></div>
</template>

<style scoped>
.door { flex: 1; display: flex; gap: 64px; align-items: center; justify-content: center; flex-wrap: wrap; padding: 32px; overflow: auto; }
</style>
