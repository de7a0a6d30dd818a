<script setup lang="ts">
import { NButton, NInput, NModal } from 'naive-ui';
import { ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, messageOf } from '@/api/client';

/** One's own password, changed by who knows the present one. */
const open = defineModel<boolean>('open', { required: true });
const { t } = useI18n();
const current = ref('');
const password = ref('');
const error = ref('');
const done = ref(false);
watch(open, () => {
    current.value = password.value = error.value = '';
    done.value = false;
});

async function save(): Promise<void> {
    error.value = '';
    try {
        await ask(http.POST('/session/password', { body: { current: current.value, password: password.value } }));
        done.value = true;
    } catch (e) {
        error.value = messageOf(e);
    }
}
</script>

<template>
    <NModal v-model:show="open" preset="card" size="small" class="own-password" :title="t('ownPassword.title')"
        :aria-label="t('ownPassword.title')">
        <p v-if="done" role="status">{{ t('ownPassword.done') }}</p>
        <form v-else @submit.prevent="save">
            <p class="faint">{{ t('ownPassword.about') }}</p>
            <div class="field"><label for="own-current">{{ t('ownPassword.current') }}</label><NInput v-model:value="current"
                type="password" placeholder="" :input-props="{ id: 'own-current', autocomplete: 'current-password' }" /></div>
            <div class="field"><label for="own-new">{{ t('ownPassword.new') }}</label><NInput v-model:value="password" type="password"
                placeholder="" :input-props="{ id: 'own-new', autocomplete: 'new-password' }" /></div>
            <p v-if="error" class="error" role="alert">{{ error }}</p>
            <NButton type="primary" attr-type="submit"
                :disabled="current === '' || password.length < 10">{{ t('ownPassword.save') }}</NButton>
        </form>
    </NModal>
</template>

<style scoped>
form { display: flex; flex-direction: column; gap: 12px; align-items: stretch; }
p { margin: 0; }
</style>

<style>
.own-password { width: 380px; }
</style>
