import { fileURLToPath } from 'node:url';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

// The demo's front end, with the packages that are here already.
const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
  root: here('../demo/front'),
  cacheDir: here('node_modules/.vite-front'),
  plugins: [react()],
  resolve: {
    alias: [{ find: /^(react|react-dom|vue)(\/.*)?$/, replacement: `${here('node_modules')}/$1$2` }],
  },
  build: {
    outDir: here('../demo/front/dist'),
    emptyOutDir: true,
    rollupOptions: {
      input: ['index.html', 'styles/dom.html', 'styles/react.html', 'styles/vue.html'].map((page) =>
        here(`../demo/front/${page}`),
      ),
    },
  },
});
