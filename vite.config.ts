import vue from '@vitejs/plugin-vue';
import laravel from 'laravel-vite-plugin';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

export default defineConfig({
    plugins: [laravel({ input: ['resources/js/main.ts'], refresh: false }), vue()],
    resolve: { alias: { '@': fileURLToPath(new URL('./resources/js', import.meta.url)), docs: fileURLToPath(new URL('./docs', import.meta.url)) } },
    build: {
        chunkSizeWarningLimit: 900,
        rolldownOptions: {
            output: { codeSplitting: { groups: [
                { name: 'naive', test: /node_modules[\\/](naive-ui|vueuc|css-render|@css-render|vooks|seemly|treemate|evtd)/ },
            ] } },
        },
    },
});
