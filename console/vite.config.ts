import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

// For work on the console itself: `npm run dev` serves it with the management API of a demo started beside it.
const service = 'http://127.0.0.1:7441';

export default defineConfig({
  base: '/',
  plugins: [react()],
  build: { assetsInlineLimit: 0, modulePreload: { polyfill: false }, chunkSizeWarningLimit: 700 },
  server: { proxy: { '/api': { target: service, changeOrigin: true } } },
  test: { environment: 'happy-dom', pool: 'vmThreads', include: ['src/**/*.test.{ts,tsx}'] },
});
