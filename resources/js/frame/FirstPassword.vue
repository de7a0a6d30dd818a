<script setup lang="ts">
import { useI18n } from 'vue-i18n';
import { loadSession, signOut } from '@/session';
import PasswordForm from './PasswordForm.vue';

/** In the place of everything else until a first password, which somebody else knows, is changed. */
const { t } = useI18n();
</script>

<template>
    <div class="door">
        <section :aria-label="t('ownPassword.first')">
            <PasswordForm @done="loadSession"><h1>{{ t('ownPassword.first') }}</h1>
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
