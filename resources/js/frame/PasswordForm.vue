<script setup lang="ts">
import { NButton, NInput } from 'naive-ui';
import { ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, messageOf } from '@/api/client';
import { vWhy } from '@/ui/why';

/** A password of one's own in the place of the present one. */
const emit = defineEmits<{ done: [] }>();
const { t } = useI18n();
const current = ref('');
const password = ref('');
const error = ref('');

async function save(): Promise<void> {
    error.value = '';
    try {
        await ask(http.POST('/session/password', { body: { current: current.value, password: password.value } }));
        emit('done');
    } catch (e) {
        error.value = messageOf(e);
    }
}
</script>

<template>
    <form @submit.prevent="save">
        <slot />
        <div class="field"><label for="own-current">{{ t('ownPassword.current') }}</label><NInput v-model:value="current"
            type="password" placeholder="" :input-props="{ id: 'own-current', autocomplete: 'current-password' }" /></div>
        <div class="field"><label for="own-new">{{ t('ownPassword.new') }}</label><NInput v-model:value="password" type="password"
            placeholder="" :input-props="{ id: 'own-new', autocomplete: 'new-password' }" /></div>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <NButton v-why="(current === '' || password.length < 10) && t('why.password')" type="primary"
            attr-type="submit" :disabled="current === '' || password.length < 10">{{ t('ownPassword.save') }}</NButton>
    </form>
</template>

<style scoped>
form { display: flex; flex-direction: column; gap: 12px; align-items: stretch; }
p { margin: 0; }
</style>
