<script setup lang="ts">
import { NInputNumber } from 'naive-ui';

/** A number that is stored in smaller units than it is typed in; said when it is left, not at each key. */
const props = defineProps<{ id: string; label: string; value: number | null; scale: number; disabled: boolean; needed?: boolean }>();
const emit = defineEmits<{ save: [value: number | null] }>();
const save = (typed: number | null) => (typed === null && props.needed ? undefined
    : emit('save', typed === null ? null : Math.round(typed * props.scale)));
</script>

<template>
    <div class="field"><label :for="id">{{ label }}</label><NInputNumber :update-value-on-input="false" size="small" :show-button="false"
        :default-value="value === null ? null : value / scale" :min="0" :clearable="!needed" :disabled="disabled" placeholder=""
        :input-props="{ id }" @update:value="save" /></div>
</template>
