<script setup lang="ts">
import { useI18n } from 'vue-i18n';
import { user } from '@/session';
import SignInForm from './SignInForm.vue';

/** Lies over the place while the session is renewed; what was typed below it stays and is sent afterwards. */
const { t } = useI18n();
</script>

<template>
    <div class="veil" role="dialog" aria-modal="true" :aria-label="t('signIn.again')">
        <div class="sheet">
            <SignInForm :title="t('signIn.again')" :email="user?.email"><p class="faint">{{ t('signIn.againHint') }}</p></SignInForm>
        </div>
    </div>
</template>

<style scoped>
.veil { position: fixed; inset: 0; z-index: 3000; display: flex; align-items: center; justify-content: center;
    background: color-mix(in srgb, var(--ink) 30%, transparent); }
.sheet { display: flex; gap: 48px; padding: 32px 40px; background: var(--paper); border: 1px solid var(--hairline); border-radius: 6px; }
p { margin: 0; }
</style>
