import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  // The list of what each part needs is read by the benchmark of what goes over the wire.
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    manifest: true,
    target: 'es2022',
    chunkSizeWarningLimit: 700,
    // The page of a guest and the public form begin on their own, without the frame and the places.
    rollupOptions: { input: ['index.html', 'mine.html', 'apply.html'] },
  },
  worker: { format: 'es' },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
});
