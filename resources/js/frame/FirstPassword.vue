<script setup lang="ts">
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { loadSession, signOut, wanted } from '@/session';
import PasswordForm from './PasswordForm.vue';

/** In the place of everything else until a first password, which somebody else knows, is changed. */
const { t } = useI18n();
const route = useRoute();
const router = useRouter();

/** The form that signed in went when this took its place: from here one goes on to where one wanted to. */
async function goOn(): Promise<void> {
    await loadSession();
    if (route.name === 'sign-in') await router.replace(wanted(route.query.then));
}
</script>

<template>
    <div class="door">
        <section :aria-label="t('ownPassword.first')">
            <PasswordForm @done="goOn"><h1>{{ t('ownPassword.first') }}</h1>
                <p class="faint">{{ t('ownPassword.firstAbout') }}</p></PasswordForm>
            <button class="verb" @click="signOut">{{ t('app.signOut') }}</button>
        </section>
    </div>
</template>

<style scoped>
.door { flex: 1; display: flex; align-items: center; justify-content: center; padding: 32px; overflow: auto; }
section { width: 380px; display: flex; flex-direction: column; gap: 12px; align-items: flex-start; }
section > :first-child { width: 100%; }
h1, p { margin: 0; }
</style>
