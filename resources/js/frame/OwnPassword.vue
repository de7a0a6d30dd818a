<script setup lang="ts">
import { NModal } from 'naive-ui';
import { ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import PasswordForm from './PasswordForm.vue';

/** One's own password, changed by who knows the present one. */
const open = defineModel<boolean>('open', { required: true });
const { t } = useI18n();
const done = ref(false);
watch(open, () => (done.value = false));
</script>

<template>
    <NModal v-model:show="open" preset="card" size="small" class="own-password" :title="t('ownPassword.title')"
        :aria-label="t('ownPassword.title')">
        <p v-if="done" role="status">{{ t('ownPassword.done') }}</p>
        <PasswordForm v-else @done="done = true"><p class="faint">{{ t('ownPassword.about') }}</p></PasswordForm>
    </NModal>
</template>

<style scoped>
p { margin: 0; }
</style>

<style>
.own-password { width: 380px; }
</style>
