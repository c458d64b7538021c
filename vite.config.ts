import { reactRouter } from '@react-router/dev/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';
import { leanCss } from './scripts/lib/lean-css';

export default defineConfig({
  plugins: [tailwindcss(), reactRouter(), leanCss()],
  resolve: { tsconfigPaths: true },
  // Vite would reload the page at every file that the database or a test writes there.
  server: { watch: { ignored: ['**/.data/**', '**/build/**', '**/test-results/**'] } },
  worker: { format: 'es' },
  environments: { ssr: { build: { rollupOptions: { input: './server/app.ts' } } } },
  build: { target: 'es2022' },
});
