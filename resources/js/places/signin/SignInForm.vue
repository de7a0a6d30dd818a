<script setup lang="ts">
import { NButton, NInput } from 'naive-ui';
import { ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { messageOf } from '@/api/client';
import { demoUsers, signIn } from '@/session';

/** E-mail and password; the demo users below it while demo data is loaded. */
const props = defineProps<{ title: string; email?: string }>();
const emit = defineEmits<{ done: [] }>();
const { t } = useI18n();
const email = ref(props.email ?? '');
const password = ref('');
const error = ref('');
const busy = ref(false);

async function submit(): Promise<void> {
    busy.value = true;
    error.value = '';
    try {
        await signIn(email.value, password.value);
        emit('done');
    } catch (e) {
        error.value = messageOf(e);
    } finally {
        busy.value = false;
    }
}

async function asDemo(person: { email: string; password: string }): Promise<void> {
    email.value = person.email;
    password.value = person.password;
    await submit();
}
</script>

<template>
    <form class="form" @submit.prevent="submit">
        <div class="wordmark">{{ t('app.name') }}</div>
        <h1>{{ title }}</h1>
        <slot />
        <div class="field">
            <label for="email">{{ t('signIn.email') }}</label>
            <NInput v-model:value="email" v-begin="!props.email" :input-props="{ id: 'email', type: 'email', autocomplete: 'username' }"
                placeholder="" />
        </div>
        <div class="field">
            <label for="password">{{ t('signIn.password') }}</label>
            <NInput v-model:value="password" v-begin="!!props.email" type="password"
                :input-props="{ id: 'password', autocomplete: 'current-password' }" placeholder="" />
        </div>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <NButton type="primary" attr-type="submit" :loading="busy">{{ t('signIn.submit') }}</NButton>
    </form>
    <section v-if="demoUsers.length" class="demo">
        <h2>{{ t('signIn.demo') }}</h2>
        <p class="faint">{{ t('signIn.demoHint') }}</p>
        <ul>
            <li v-for="person in demoUsers" :key="person.email">
                <button type="button" class="verb" @click="asDemo(person)">{{ person.name }}</button><span
                    class="faint">{{ person.role }}</span>
            </li>
        </ul>
    </section>
</template>

<style scoped>
.form { display: flex; flex-direction: column; gap: 14px; width: 300px; }
.wordmark { align-self: flex-start; font-size: 26px; line-height: 36px; font-weight: 700; border-bottom: 3px solid var(--marigold);
    margin-bottom: 8px; }
.demo { width: 320px; border-left: 1px solid var(--hairline); padding-left: 32px; }
.demo ul { list-style: none; padding: 0; margin: 8px 0 0; }
.demo li { display: flex; justify-content: space-between; padding: 4px 0; border-top: 1px solid var(--hairline); }
.error { margin: 0; }
</style>
