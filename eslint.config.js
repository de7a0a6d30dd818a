import pluginVue from 'eslint-plugin-vue';
import tseslint from 'typescript-eslint';

export default tseslint.config(
    { ignores: ['public/**', 'vendor/**', 'resources/js/api/schema.ts'] },
    ...tseslint.configs.recommended,
    ...pluginVue.configs['flat/recommended'],
    { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
    {
        rules: {
            '@typescript-eslint/no-non-null-assertion': 'off',
            'vue/html-indent': ['error', 4, { alignAttributesVertically: false }],
            'vue/first-attribute-linebreak': 'off',
            'vue/html-closing-bracket-newline': 'off',
            'vue/multiline-html-element-content-newline': 'off',
            'vue/max-attributes-per-line': 'off',
            'vue/singleline-html-element-content-newline': 'off',
            'vue/html-self-closing': ['error', { html: { void: 'never' } }],
            'vue/multi-word-component-names': ['error', { ignores: ['App'] }],
            'vue/no-undef-properties': 'off',
            'no-undef': 'off',
        },
    },
);
