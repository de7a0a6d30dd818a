<script setup lang="ts">
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { wanted } from '@/session';
import SignInForm from './SignInForm.vue';

const { t } = useI18n();
const route = useRoute();
const router = useRouter();

function enter(): void {
    void router.push(wanted(route.query.then));
}
</script>

<template>
    <div class="door"><SignInForm :title="t('signIn.title')" @done="enter" /></div>
</template>

<style scoped>
.door { flex: 1; display: flex; gap: 64px; align-items: center; justify-content: center; flex-wrap: wrap; padding: 32px; overflow: auto; }
</style>
