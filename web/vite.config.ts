import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [react()],
  build: { target: 'es2022', sourcemap: false, assetsInlineLimit: 0 },
  worker: { format: 'es' },
  server: { proxy: { '/api': 'http://127.0.0.1:8400', '/enter': 'http://127.0.0.1:8400' } },
  test: {
    // Those that need a page say so on their first line: `@vitest-environment jsdom`.
    environment: 'node',
    // They start in half the time of processes.
    pool: 'threads',
    setupFiles: ['src/testing.ts'],
    include: ['src/**/*.test.{ts,tsx}'],
    // A busy machine is no fault of what is tested.
    testTimeout: 120_000,
  },
});
