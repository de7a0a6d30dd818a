<script setup lang="ts">
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { useIdentities } from '@/api/queries';

/** What files and other systems call an activity. */
const props = defineProps<{ uid: string }>();
const { t } = useI18n();
const identities = useIdentities(() => props.uid, true);
const known = computed(() => identities.data.value?.identities ?? []);
</script>

<template>
    <section v-if="known.length > 0">
        <h3>{{ t('inspector.knownAs') }}</h3>
        <p v-for="one in known" :key="one.source" class="faint">{{ t('inspector.knownIn', one) }}</p>
    </section>
</template>
