<script setup lang="ts">
import { NButton, NInput } from 'naive-ui';
import { ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { messageOf } from '@/api/client';
import { demoUsers, signIn } from '@/session';

const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const email = ref('');
const password = ref('');
const error = ref('');
const busy = ref(false);

async function submit(): Promise<void> {
    busy.value = true;
    error.value = '';
    try {
        await signIn(email.value, password.value);
        const then = route.query.then;
        await router.push(typeof then === 'string' && /^\/(?!\/)/.test(then) ? then : { name: 'portfolio' });
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
    <div class="door">
        <form class="form" @submit.prevent="submit">
            <div class="wordmark">{{ t('app.name') }}</div>
            <h1>{{ t('signIn.title') }}</h1>
            <div class="field">
                <label for="email">{{ t('signIn.email') }}</label>
                <NInput v-model:value="email" :input-props="{ id: 'email', type: 'email', autocomplete: 'username' }" placeholder="" autofocus />
            </div>
            <div class="field">
                <label for="password">{{ t('signIn.password') }}</label>
                <NInput v-model:value="password" type="password" :input-props="{ id: 'password', autocomplete: 'current-password' }" placeholder="" />
            </div>
            <p v-if="error" class="error" role="alert">{{ error }}</p>
            <NButton type="primary" attr-type="submit" :loading="busy">{{ t('signIn.submit') }}</NButton>
        </form>
        <section v-if="demoUsers.length" class="demo">
            <h2>{{ t('signIn.demo') }}</h2>
            <p class="faint">{{ t('signIn.demoHint') }}</p>
            <ul>
                <li v-for="person in demoUsers" :key="person.email">
                    <button type="button" class="verb" @click="asDemo(person)">{{ person.name }}</button><span class="faint">{{ person.role }}</span>
                </li>
            </ul>
        </section>
    </div>
</template>

<style scoped>
.door { flex: 1; display: flex; gap: 64px; align-items: center; justify-content: center; flex-wrap: wrap; padding: 32px; overflow: auto; }
.form { display: flex; flex-direction: column; gap: 14px; width: 300px; }
.wordmark { align-self: flex-start; font-size: 26px; line-height: 36px; font-weight: 700; border-bottom: 3px solid var(--marigold); margin-bottom: 8px; }
.demo { width: 320px; border-left: 1px solid var(--hairline); padding-left: 32px; }
.demo ul { list-style: none; padding: 0; margin: 8px 0 0; }
.demo li { display: flex; justify-content: space-between; padding: 4px 0; border-top: 1px solid var(--hairline); }
.error { margin: 0; }
</style>
